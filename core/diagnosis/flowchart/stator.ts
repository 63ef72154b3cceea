import type { JudgedReading } from "../../procedure/judge";
import { isNumber, isOpen } from "../../units";
import type { Clearing, Evidence, Finding, Page } from "./evidence";
import { locateGroundTouch, touchWords } from "./groundtouch";

/** A delta winding that is open makes its pair read twice the others; this ratio tells it from a bad clip. */
const DELTA_OPEN_RATIO = 1.6;

/** Page three: the stator, unplugged, ohms and AC. */
export function statorPage(e: Evidence): Page {
  const findings: Finding[] = [...groundedWinding(e), ...pairOhms(e), ...acVolts(e)];
  const clearings: Clearing[] = [];
  const legs = e.context.sheet.legs.length;
  const ac = e.of("stator.acVolts", "test");
  if (findings.length === 0 && ac.length >= legs && e.good("stator.acVolts")) {
    clearings.push({
      part: "stator",
      says: "AC is in band and equal on every pair.",
      because: [...ac, ...e.of("stator.toGround"), ...e.of("stator.resistance")],
    });
    clearings.push({ part: "rotor", says: "AC is in band: the magnets do their work.", because: ac });
  }
  return { findings, clearings };
}

function groundedWinding(e: Evidence): Finding[] {
  const touching = e.bad("stator.toGround");
  if (touching.length === 0) return [];
  const where = touchPlace(e);
  const leaks = touching.every((one) => one.judged === "low");
  const legs = touching.map((one) => one.reading.at).join(", ");
  return [
    {
      fault: "stator.winding-grounded",
      weight: leaks ? "points" : "settles",
      ...(where ? { where } : {}),
      says: leaks
        ? `${touching.length > 1 ? "Legs" : "Leg"} ${legs}: a leak to the case: damp, dirt or the start of a fault.`
        : `${touching.length > 1 ? "Legs" : "Leg"} ${legs}: there is a path to the engine case; a good winding has none.`,
      because: touching,
    },
  ];
}

/** The touch point in words, once every leg and pair has a figure. */
function touchPlace(e: Evidence): string | undefined {
  const { sheet, meter } = e.context;
  const [a, b, c] = sheet.legs.map((leg) => leg.id);
  const shown = (test: "stator.toGround" | "stator.resistance", at: string): number | undefined => {
    const value = e.of(test).findLast((one) => one.reading.at === at || one.reading.at?.split("-").reverse().join("-") === at)?.value;
    return value !== undefined && isNumber(value) ? value : undefined;
  };
  if (!a || !b || !c || sheet.winding === "unknown") return lowestLeg(e);
  const ohms = {
    ab: shown("stator.resistance", `${a}-${b}`),
    bc: shown("stator.resistance", `${b}-${c}`),
    ca: shown("stator.resistance", `${c}-${a}`),
    a: shown("stator.toGround", a),
    b: shown("stator.toGround", b),
    c: shown("stator.toGround", c),
  };
  const known = Object.values(ohms).every((value) => value !== undefined);
  return known ? touchWords(locateGroundTouch(sheet.winding, [a, b, c], ohms as Record<keyof typeof ohms, number>, meter.ohmsResolution)) : lowestLeg(e);
}

function lowestLeg(e: Evidence): string | undefined {
  const numbered = e.of("stator.toGround").filter((one) => isNumber(one.value));
  const lowest = numbered.sort((x, y) => (x.value as number) - (y.value as number))[0];
  return lowest && `leg ${lowest.reading.at}, the lowest to the case so far`;
}

function pairOhms(e: Evidence): Finding[] {
  const pairs = e.of("stator.resistance");
  const open = pairs.filter((one) => isOpen(one.value));
  if (open.length > 0) {
    const common = commonLeg(open);
    const where = open.length > 1 && common ? `leg ${common}` : `pair ${open.map((one) => one.reading.at).join(" and ")}`;
    return [
      {
        fault: "stator.winding-open",
        weight: "settles",
        where,
        says: "A pair reads the open line: no current can pass that winding.",
        because: open,
      },
    ];
  }
  if (pairs.length < e.context.sheet.legs.length) return [];
  const values = pairs.map((one) => one.value as number);
  const [low = 0, , high = 0] = [...values].sort((x, y) => x - y);
  const others = values.filter((value) => value !== high);
  const delta = e.context.sheet.winding === "delta" && others.length === values.length - 1 && high > DELTA_OPEN_RATIO * Math.max(...others);
  if (delta) {
    const odd = pairs.filter((one) => one.value === high);
    return [
      {
        fault: "stator.winding-open",
        weight: "settles",
        where: `winding ${odd[0]?.reading.at}`,
        says: "In a delta, one pair at twice the others means that pair's winding is open.",
        because: pairs,
      },
    ];
  }
  const lowPairs = pairs.filter((one) => one.judged === "low" || (one.judged === "unequal" && (one.value as number) < high));
  if (lowPairs.length > 0 && lowPairs.length < pairs.length) {
    const common = commonLeg(lowPairs);
    const where = lowPairs.length > 1 && common ? `leg ${common}` : `pair ${lowPairs[0]?.reading.at}`;
    return [
      {
        fault: "stator.turns-shorted",
        weight: low < 0.75 * high ? "settles" : "points",
        where,
        says: "One pair is lower than its fellows: part of the winding is bypassed.",
        because: lowPairs,
      },
    ];
  }
  return [];
}

function acVolts(e: Evidence): Finding[] {
  const legs = e.context.sheet.legs.length;
  const ac = e.of("stator.acVolts", "test");
  const odd = ac.filter((one) => one.judged === "low" || one.judged === "unequal");
  if (ac.length < legs || odd.length === 0) return [];
  if (odd.length < legs) {
    const common = commonLeg(odd);
    const where = odd.length > 1 && common ? `leg ${common}` : `pair ${odd[0]?.reading.at}`;
    const open = odd.some((one) => (one.value as number) < 1);
    return [
      {
        fault: open ? "stator.winding-open" : "stator.turns-shorted",
        weight: "settles",
        where,
        says: "AC volts are unequal: the low pairs share a winding.",
        because: odd,
      },
    ];
  }
  const balance = ac[0]?.imbalance ?? 0;
  if (balance > e.context.school.imbalance.ac) {
    return [{ fault: "stator.turns-shorted", weight: "settles", says: "Every pair makes too little AC, and unequally.", because: ac }];
  }
  const ohmsGood = e.good("stator.resistance");
  return [
    {
      fault: "rotor.weak",
      weight: ohmsGood ? "settles" : "points",
      says: "Every pair is low alike: magnets, or less rpm than you think.",
      because: ac,
    },
  ];
}

/** The leg that all of these pairs share. */
function commonLeg(pairs: readonly JudgedReading[]): string | undefined {
  const [first = [], ...rest] = pairs.map((one) => one.reading.at?.split("-") ?? []);
  return first.find((leg) => rest.every((pair) => pair.includes(leg)));
}
