import { type FaultId, faultOf } from "../../machine/faults";
import { PART_NAMES, PARTS, type Part } from "../../machine/part";
import { type JudgedReading, type JudgingContext, judgeAll } from "../../procedure/judge";
import { beforeRepair } from "../../procedure/runlist";
import type { Reading } from "../../procedure/step";
import { batteryPage } from "./battery";
import { drainPage } from "./drain";
import { type Clearing, Evidence, type Finding } from "./evidence";
import { regulatorPage } from "./regulator";
import { statorPage } from "./stator";
import { wiringPage } from "./wiring";

/** How a part stands after the readings so far. */
export type Mark = "unseen" | "cleared" | "suspect" | "condemned" | "contradicting";

interface Standing {
  part: Part;
  mark: Mark;
  says: string;
  because: JudgedReading[];
}

type Status = "found" | "narrowed" | "healthy" | "contradiction" | "not-enough";

/** What the fixed order of a good manual concludes from a job's readings. */
export interface Conclusion {
  status: Status;
  part?: Part | "none";
  fault?: FaultId;
  where?: string;
  /** The verdict in one sentence. */
  headline: string;
  /** Why, one sentence a finding, the decisive one first. */
  why: { says: string; because: JudgedReading[] }[];
  ruledOut: { part: Part; says: string; because: JudgedReading[] }[];
  /** Other faults that the readings also show. */
  also: { fault: FaultId; where?: string; says: string }[];
  /** What would change the verdict. */
  wouldChange: string;
  standing: Standing[];
  judged: JudgedReading[];
}

const PAGES = [batteryPage, statorPage, regulatorPage, wiringPage, drainPage];

const WEIGHT_ORDER = { settles: 0, points: 1, asks: 2 } as const;

/**
 * The order of faults when several are settled: the stator feeds everything, then the unit, then the wire,
 * and a low battery or a drain comes after what could have caused it.
 */
const FAULT_ORDER: readonly Part[] = ["stator", "rotor", "regulator", "wiring", "starter", "battery", "loads"];

/**
 * The fixed-order conclusion from a job's readings taken before the repair.
 * Pages are read in the manual's order (battery, stator, regulator/rectifier, wiring, drain); the first settled finding is
 * the verdict, pointers narrow it, and cleared parts are ruled out.
 */
export function conclude(readings: readonly Reading[], context: JudgingContext): Conclusion {
  return concludeJudged(judgeAll(readings, context), context);
}

/** As `conclude`, for readings that are judged already. */
export function concludeJudged(judged: JudgedReading[], context: JudgingContext): Conclusion {
  const evidence = new Evidence(beforeRepair(judged), context);
  const pages = PAGES.map((page) => page(evidence));
  const findings = pages.flatMap((page) => page.findings).sort(byOrder);
  const clearings = pages.flatMap((page) => page.clearings);
  const standing = standingOf(findings, clearings);
  const base = { standing, judged, ruledOut: ruledOut(clearings, findings) };
  const clash = contradiction(evidence);
  if (clash) return { ...base, ...clash };
  const settled = findings.filter((finding) => finding.weight === "settles");
  const [first, ...others] = settled.length > 0 ? settled : findings.filter((finding) => finding.weight === "points");
  if (!first) return { ...base, ...withoutFinding(evidence, findings) };
  const fault = faultOf(first.fault);
  const found = first.weight === "settles";
  const also = dedupe(found ? [...others, ...findings.filter((one) => one.weight === "points")] : others, first);
  const subject = `${PART_NAMES[fault.part]}: ${fault.title.charAt(0).toLowerCase()}${fault.title.slice(1)}`;
  return {
    ...base,
    status: found ? "found" : "narrowed",
    part: fault.part,
    fault: first.fault,
    ...(first.where ? { where: first.where } : {}),
    headline: `${found ? "" : "Most likely: "}${subject}${first.where ? `; ${first.where}` : ""}.`,
    why: findings.filter((one) => faultOf(one.fault).part === fault.part).map(({ says, because }) => ({ says, because })),
    also,
    wouldChange: fault.beforeOrdering,
  };
}

function byOrder(a: Finding, b: Finding): number {
  const weight = WEIGHT_ORDER[a.weight] - WEIGHT_ORDER[b.weight];
  return weight || FAULT_ORDER.indexOf(faultOf(a.fault).part) - FAULT_ORDER.indexOf(faultOf(b.fault).part);
}

function dedupe(findings: readonly Finding[], first: Finding): Conclusion["also"] {
  const seen = new Set<FaultId>([first.fault]);
  return findings.flatMap((finding) => {
    if (seen.has(finding.fault)) return [];
    seen.add(finding.fault);
    return [{ fault: finding.fault, ...(finding.where ? { where: finding.where } : {}), says: finding.says }];
  });
}

function standingOf(findings: readonly Finding[], clearings: readonly Clearing[]): Standing[] {
  return PARTS.map((part) => {
    const against = findings.filter((finding) => faultOf(finding.fault).part === part);
    const clear = clearings.find((clearing) => clearing.part === part);
    const [worst] = against;
    if (worst && clear && worst.weight === "settles") {
      return { part, mark: "contradicting", says: `${worst.says} Yet: ${clear.says}`, because: [...worst.because, ...clear.because] };
    }
    if (worst) return { part, mark: worst.weight === "settles" ? "condemned" : "suspect", says: worst.says, because: worst.because };
    if (clear) return { part, mark: "cleared", says: clear.says, because: clear.because };
    return { part, mark: "unseen", says: "Nothing read yet that speaks for or against it.", because: [] };
  });
}

function ruledOut(clearings: readonly Clearing[], findings: readonly Finding[]): Conclusion["ruledOut"] {
  const accused = new Set(findings.map((finding) => faultOf(finding.fault).part));
  const seen = new Set<Part>();
  return clearings.filter((clearing) => !accused.has(clearing.part) && !seen.has(clearing.part) && seen.add(clearing.part));
}

/** Readings that cannot both be true of one machine. */
function contradiction(e: Evidence): Pick<Conclusion, "status" | "headline" | "why" | "also" | "wouldChange"> | undefined {
  const openPairs = e.of("stator.resistance").filter((one) => one.judged === "open");
  const acGood = e.of("stator.acVolts", "test").length >= e.context.sheet.legs.length && e.good("stator.acVolts", "test");
  if (openPairs.length > 0 && acGood) {
    return clash(
      "A pair reads open and yet every pair makes its AC.",
      [...openPairs, ...e.of("stator.acVolts", "test")],
      "Take the open pair again on clean pin metal, then the same pair's AC.",
    );
  }
  const noAc = e.of("stator.acVolts", "test").filter((one) => one.judged === "low");
  if (e.charging === "in" && noAc.length === e.context.sheet.legs.length) {
    return clash(
      "It charges in band and yet no pair makes its AC.",
      [...noAc, ...e.of("charge.volts")],
      "Check the dial (AC, not DC) and the rpm, and take the AC volts again.",
    );
  }
  return undefined;
}

function clash(says: string, because: JudgedReading[], next: string): Pick<Conclusion, "status" | "headline" | "why" | "also" | "wouldChange"> {
  return { status: "contradiction", headline: `The readings disagree. ${says}`, why: [{ says, because }], also: [], wouldChange: next };
}

function withoutFinding(e: Evidence, hints: readonly Finding[]): Pick<Conclusion, "status" | "part" | "headline" | "why" | "also" | "wouldChange"> {
  const why = hints.map(({ says, because }) => ({ says, because }));
  const batteryProved = e.good("battery.rest") && (e.good("battery.crank") || e.good("battery.load"));
  if (batteryProved && e.charging === "in" && e.last("drain.current")?.judged === "in") {
    return {
      status: "healthy",
      part: "none",
      headline: "Nothing failed: the battery is proved, it charges in band, and nothing drains it.",
      why: [
        {
          says: "Battery, charging and drain are all in band.",
          because: [...e.of("battery.rest"), ...e.of("battery.crank"), ...e.of("charge.volts"), ...e.of("drain.current")],
        },
      ],
      also: [],
      wouldChange: "If it goes flat again, ask how it is used: short hops, long stands, an accessory left on. Then read it hot.",
    };
  }
  const missing = [
    batteryProved ? "" : "prove the battery (rest and crank)",
    e.charging === "unread" ? "read charging volts at the sheet's rpm" : "",
    e.charging === "low" && e.of("stator.acVolts", "test").length < e.context.sheet.legs.length ? "read AC volts on every pair" : "",
    e.charging === "in" && !e.last("drain.current") ? "read the drain" : "",
  ].filter(Boolean);
  return {
    status: "not-enough",
    headline: missing.length > 0 ? `Not enough yet. Still to do: ${missing.join("; ")}.` : "Not enough yet. Work down the run list.",
    why,
    also: [],
    wouldChange: "Each reading on the run list narrows it.",
  };
}
