import type { JudgedReading } from "../../procedure/judge";
import { answers, diodeEnds } from "../../procedure/step";
import { isNumber } from "../../units";
import type { Clearing, Evidence, Finding, Page } from "./evidence";

/** Page four: the regulator/rectifier on the bench of its own pins, then by elimination. */
export function regulatorPage(e: Evidence): Page {
  const findings: Finding[] = [...diodes(e), ...overcharge(e)];
  const clearings: Clearing[] = [];
  const unplugged = e.last("drain.unitUnplugged");
  if (e.last("drain.current")?.judged === "high" && unplugged?.judged === "in") {
    findings.push({
      fault: "regulator.diode-leaky",
      weight: "settles",
      says: "The draw vanishes with the unit unplugged.",
      because: [...e.of("drain.current"), unplugged],
    });
  }
  if (findings.length === 0) findings.push(...byElimination(e));
  if (findings.length === 0 && e.charging === "in") {
    clearings.push({ part: "regulator", says: "Charging volts rise, hold, and stay under the ceiling.", because: e.of("charge.volts") });
  }
  return { findings, clearings };
}

function diodes(e: Evidence): Finding[] {
  const bad = e.bad("regulator.diode");
  const shorted = bad.filter((one) => one.judged === "shorted");
  const passes = (one: JudgedReading) => one.band?.kind !== "open";
  const open = bad.filter((one) => one.judged === "open" && passes(one));
  const leaky = bad.filter((one) => one.judged === "low" && !passes(one));
  if (shorted.length > 0) {
    return [
      {
        fault: "regulator.diode-shorted",
        weight: "settles",
        where: diodePlace(shorted),
        says: "A junction passes both ways.",
        because: shorted,
      },
    ];
  }
  if (open.length > 0) {
    return [
      {
        fault: "regulator.diode-open",
        weight: "settles",
        where: diodePlace(open),
        says: "A diode that should pass shows the open line.",
        because: open,
      },
    ];
  }
  if (leaky.length > 0) {
    return [
      {
        fault: "regulator.diode-leaky",
        weight: "points",
        where: diodePlace(leaky),
        says: "A diode that should block lets some through.",
        because: leaky,
      },
    ];
  }
  return [];
}

function diodePlace(readings: readonly JudgedReading[]): string {
  const places = readings.map((one) => {
    const { red, black } = diodeEnds(one.reading.at ?? "");
    const leg = [red, black].find((end) => end !== "B+" && end !== "B-");
    const rail = [red, black].find((end) => end === "B+" || end === "B-");
    return leg ? `leg ${leg}, ${rail === "B+" ? "output" : "ground"} side` : "rail to rail";
  });
  return [...new Set(places)].join("; ");
}

function overcharge(e: Evidence): Finding[] {
  const high = e.of("charge.volts").filter((one) => one.judged === "high");
  if (high.length === 0) return [];
  const badGround = [...e.bad("charge.groundDrop"), ...e.bad("regulator.ground")];
  if (badGround.length > 0) return [];
  const groundProved = e.good("regulator.ground") || e.good("charge.groundDrop");
  return [{ fault: "regulator.set-high", weight: groundProved ? "settles" : "points", says: "Charging volts pass the ceiling.", because: high }];
}

/** No test condemns the box outright when it makes nothing: everything that feeds it must be proved first. */
function byElimination(e: Evidence): Finding[] {
  if (e.charging !== "low") return [];
  const legs = e.context.sheet.legs.length;
  const acProved = e.of("stator.acVolts", "test").length >= legs && e.good("stator.acVolts", "test");
  const wiresProved =
    e.good("regulator.feed") && e.good("regulator.ground") && e.bad("charge.positiveDrop").length === 0 && e.bad("charge.groundDrop").length === 0;
  const atUnit = e.bad("stator.acVoltsAtUnit");
  if (!acProved || atUnit.length > 0) return [];
  const because = [...e.of("charge.volts", "test"), ...e.of("stator.acVolts", "test"), ...e.of("regulator.feed"), ...e.of("regulator.ground")];
  const swap = e.last("swap.unit");
  if (swap?.value === "same") return [];
  const settled = wiresProved || swap?.value === "fixed";
  return [
    {
      fault: "regulator.no-output",
      weight: settled ? "settles" : "asks",
      says: settled
        ? "Good AC in, good feed, good ground, and no rise: what is left is the unit."
        : "AC is good and there is no rise. Prove feed and ground, then it is the unit.",
      because,
    },
  ];
}

/** Volts lost between the unit's own output and the battery, by the two readings taken at the same speed and loads. */
export function outputLoss(e: Evidence): number | undefined {
  const output = e.last("charge.outputVolts");
  const battery = output && e.of("charge.volts").findLast((one) => answers({ ...output.reading, test: "charge.volts" }, one.reading));
  return output && battery && isNumber(output.value) && isNumber(battery.value) ? output.value - battery.value : undefined;
}
