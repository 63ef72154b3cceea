import type { Clearing, Evidence, Finding, Page } from "./evidence";

/** A shorted cell takes this many volts off a 12 V battery at rest, within the tolerance given. */
const CELL_VOLTS = 2.1;

/** Page one: is the battery proved? */
export function batteryPage(e: Evidence): Page {
  const findings: Finding[] = [];
  const clearings: Clearing[] = [];
  const rest = e.last("battery.rest");
  const underLoad = [...e.of("battery.crank"), ...e.of("battery.load"), ...e.of("battery.conductance")];
  const failedLoad = underLoad.filter((one) => one.judged === "low");
  const cable = e.last("starter.cableDrop");
  const restLow = rest?.judged === "low";

  if (restLow && rest && isCellDown(e)) {
    findings.push({
      fault: "battery.shorted-cell",
      weight: failedLoad.length > 0 ? "settles" : "points",
      says: "Rest volts are a whole cell down.",
      because: [rest, ...failedLoad],
    });
  } else if (restLow && rest) {
    findings.push({
      fault: "battery.discharged",
      weight: "points",
      says: "The battery is low at rest. Charge it fully, let it rest and read again before you trust any later figure.",
      because: [rest, ...failedLoad],
    });
  } else if (rest && failedLoad.length > 0) {
    if (cable?.judged === "high") {
      findings.push({
        fault: "starter.draws-too-much",
        weight: "settles",
        says: "The battery rests well, and the volts go in the starter cable.",
        because: [rest, ...failedLoad, cable],
      });
    } else {
      const sure = cable?.judged === "in" || failedLoad.some((one) => one.reading.test !== "battery.crank");
      findings.push({
        fault: "battery.sulphated",
        weight: sure ? "settles" : "points",
        says: "It rests well and falls under load.",
        because: [rest, ...failedLoad, ...(cable ? [cable] : [])],
      });
    }
  } else if (rest && underLoad.length > 0) {
    clearings.push({ part: "battery", says: "It rests well and holds under load.", because: [rest, ...underLoad] });
    if (e.good("battery.crank")) clearings.push({ part: "starter", says: "The crank dip is in band.", because: e.of("battery.crank") });
  }
  return { findings, clearings };
}

function isCellDown(e: Evidence): boolean {
  const volts = e.number("battery.rest");
  if (volts === undefined || e.context.sheet.battery.chemistry === "lithium-iron") return false;
  const full = (e.context.sheet.systemVolts / 12) * 12.7;
  return Math.abs(full - CELL_VOLTS - volts) < 0.25;
}
