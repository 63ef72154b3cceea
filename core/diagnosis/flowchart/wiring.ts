import { formatQuantity, isNumber } from "../../units";
import type { Clearing, Evidence, Finding, Page } from "./evidence";
import { outputLoss } from "./regulator";

/** Volts between the unit's output and the battery that no sound wire loses. */
const LOSS_VOLTS = 0.5;

/** Page five: posts, connectors, feed, ground and the wire between. */
export function wiringPage(e: Evidence): Page {
  const findings: Finding[] = [];
  const clearings: Clearing[] = [];
  const terminals = [...e.bad("inspect.terminals"), ...e.bad("inspect.ground")];
  if (terminals.length > 0) {
    findings.push({
      fault: "wiring.terminals",
      weight: "points",
      says: "A post, lug or strap is not sound. Mend it before any other figure counts.",
      because: terminals,
    });
  }
  const connectors = e.bad("inspect.connector");
  if (connectors.length > 0) {
    const melted = connectors.filter((one) => one.value === "melted");
    const stator = connectors.some((one) => one.reading.at === "stator");
    findings.push({
      fault: stator ? "wiring.leg-burnt" : "wiring.output-resistance",
      weight: melted.length > 0 ? "points" : "asks",
      where: connectors.map((one) => `${one.reading.at} connector`).join(", "),
      says: melted.length > 0 ? "A connector has been cooked." : "A connector is green.",
      because: connectors,
    });
  }
  const lost = e.bad("stator.acVoltsAtUnit");
  if (lost.length > 0 && e.good("stator.acVolts", "test")) {
    findings.push({
      fault: "wiring.leg-burnt",
      weight: "settles",
      where: `pair ${lost.map((one) => one.reading.at).join(", ")} between stator plug and unit`,
      says: "AC is good at the stator and lost at the unit.",
      because: lost,
    });
  }
  // A feed as low as the battery itself is the battery's doing, not the wire's.
  const battery = e.number("battery.settled") ?? e.number("battery.rest");
  const feed = e.bad("regulator.feed").filter(({ value }) => battery === undefined || !isNumber(value) || battery - value > LOSS_VOLTS);
  if (feed.length > 0) {
    const fuse = e.bad("fuse.continuity");
    findings.push({
      fault: "wiring.feed-open",
      weight: "settles",
      ...(fuse.length > 0 ? { where: `fuse ${fuse.map((one) => one.reading.at).join(", ")}` } : {}),
      says: "Battery volts do not reach the unit's output pin.",
      because: [...feed, ...fuse],
    });
  }
  const ground = [...e.bad("regulator.ground"), ...e.bad("charge.groundDrop")];
  if (ground.length > 0) {
    findings.push({
      fault: "wiring.ground-resistance",
      weight: "settles",
      where: "unit's ground to battery minus",
      says: "The way home from the unit is poor.",
      because: ground,
    });
  }
  findings.push(...outputDrop(e));
  if (findings.length === 0 && e.good("charge.positiveDrop") && e.good("charge.groundDrop")) {
    clearings.push({
      part: "wiring",
      says: "The drops out and home are small.",
      because: [...e.of("charge.positiveDrop"), ...e.of("charge.groundDrop")],
    });
  } else if (findings.length === 0 && e.charging === "in") {
    clearings.push({ part: "wiring", says: "Charging volts arrive at the battery.", because: e.of("charge.volts") });
  }
  return { findings, clearings };
}

function outputDrop(e: Evidence): Finding[] {
  const drop = e.bad("charge.positiveDrop").filter((one) => one.judged === "high");
  const loss = outputLoss(e);
  const big = loss !== undefined && loss > LOSS_VOLTS;
  if (drop.length === 0 && !(big && e.charging === "low")) return [];
  const by = loss !== undefined ? `, by ${formatQuantity(loss, "V")}` : "";
  return [
    {
      fault: "wiring.output-resistance",
      weight: "settles",
      where: "joint, fuse holder or wire on the way",
      says: `The rise is there at the unit and lost on the way to the battery${by}.`,
      because: [...drop, ...e.of("charge.outputVolts")],
    },
  ];
}
