import type { Chance } from "./chance";
import type { Valve } from "./dynamo";
import type { Asked, Faults, SheetData } from "./kinds";

/** What a slipped probe, a wrong range or a wrong unit makes of a reading. */
export function misread(asked: Asked, value: number | string, c: Chance): number | string {
  if (typeof value === "string" && value !== "OL") return asked.test === "inspect.connector" ? c.pick(["clean", "green"]) : value;
  if (/^(regulator\.diode|stator\.(resistance|toGround))$/.test(asked.test) && c.yes(0.4))
    return value === "OL" ? Number(c.decades(0.3, asked.test === "regulator.diode" ? 1.9 : 200).toFixed(2)) : "OL";
  if (value === "OL") return "OL";
  const low = value as number;
  const slip = c.weighted<number>([
    [low * 10, 1],
    [low / 10, 1],
    [low + c.pick([-1, 1, 0.5, -0.5, 2, -2]), 3],
    [low * c.between(0.4, 1.6), 2],
  ]);
  if (asked.test === "regulator.diode") return round(Math.min(1.9, Math.max(0, slip)), 0.001);
  if (/battery|charge|feed/.test(asked.test)) return round(Math.min(60, Math.max(-5, slip)), 0.01);
  return round(Math.max(0, slip), asked.test.startsWith("stator.ac") ? 0.1 : 0.01);
}

/** What a contact that is bad for a whole visit, or a throttle and dial that are wrong for one, make of each reading alike. @param how 0 to 1: in which way */
export function spoiltBy({ test }: Asked, value: number | string, how: number): number | string {
  if (test === "regulator.diode" || test === "stator.toGround") return "OL";
  if (typeof value !== "number") return value;
  if (test === "stator.resistance") return how < 0.4 ? "OL" : round(value + 3 * (how - 0.3), 0.1);
  return test.startsWith("stator.ac") ? round(value * (0.35 + 0.45 * how), 0.1) : value;
}

/** Units that hold back by letting go: their upper half is a switch, open both ways at rest. */
export const LETTING = ["three-phase-series", "single-phase-two-wire", "ground-referenced-pair"];
/** Families whose generator is held back by its field: nothing in their rectifier fires, so a shorted diode is no way to ground. */
export const FIELDED = ["field-excited", "dc-generator"];

/**
 * Rms amps of the legs where a unit holds back: a field gives less of all of it, thyristors that let go the whole of it for some of the
 * time; a unit that shorts them leaves their current as it is. @param free those at full output @param share of the full output that is taken
 */
export function heldLegs(family: string, free: number[], share: number): number[] {
  const taken = Math.min(1, Math.max(0, share));
  if (FIELDED.includes(family)) return free.map((amps) => amps * taken);
  return LETTING.includes(family) ? free.map((amps) => amps * Math.sqrt(taken)) : free;
}

/** What a meter on diode test shows between two pins of the unit, the red probe named first. */
export function diodeShown(at: string, f: Faults, c: Chance, { family, legs }: SheetData, ambientC: number, diodeMaxVolts: number): number | string {
  const [red = "", black = ""] = at.split(">");
  const drop = (family === "three-phase-mosfet" ? 0.42 : 0.5) + c.normal(0.015) - 0.0018 * (ambientC - 25);
  const leg = legs.findIndex((leg) => leg.id === red || leg.id === black);
  // Behind a broken pin nothing reaches the output rail, whatever the diodes are.
  if (f.outputInside && (red === "B+" || black === "B+")) return "OL";
  const way = (half: "upper" | "lower", k: number): Valve => f[half][k] as Valve;
  const show = (kind: Valve, forward: boolean, k: number, half: "upper" | "lower"): number | string => {
    if (kind === "short") return round(c.between(0, 0.03), 0.001);
    const switched = half === "upper" && LETTING.includes(family);
    if (f.leak?.[0] === k && (!forward || switched)) {
      const seen = 0.001 * f.leak[1];
      return seen > Math.min(2, diodeMaxVolts) ? "OL" : round(seen, 0.001);
    }
    if (switched || !forward || kind === "open") return "OL";
    return round(Math.min(drop, f.leak?.[0] === k ? 0.001 * f.leak[1] : 9), 0.001);
  };
  if (leg < 0) {
    // Rail to rail: two in a row somewhere, or nothing.
    if (red === "B-") {
      if (LETTING.includes(family)) return f.upper.includes("short") ? round(drop, 0.001) : "OL";
      if (f.upper.every((valve) => valve === "open") || f.lower.every((valve) => valve === "open")) return "OL";
      const ways = f.upper.includes("short") || f.lower.includes("short") ? drop : 1.82 * drop;
      return round(Math.min(ways, f.leak ? 0.002 * f.leak[1] : 9), 0.001);
    }
    return f.leak && 0.002 * f.leak[1] < 2 ? round(0.002 * f.leak[1], 0.001) : "OL";
  }
  if (black === "B+") return show(way("upper", leg), true, leg, "upper");
  if (red === "B+") return show(way("upper", leg), false, leg, "upper");
  if (red === "B-") return show(way("lower", leg), true, leg, "lower");
  return show(way("lower", leg), false, leg, "lower");
}

/** How a lamp of some seven ohms burns behind others. */
function lamp(ohms: number): string {
  const share = 7 / (7 + ohms);
  return share > 0.85 ? "bright" : share > 0.3 ? "dim" : "dark";
}

/** What eyes and fingers find. */
export function found(asked: Asked, f: Faults, c: Chance, chemistry: string): string {
  switch (asked.test) {
    case "inspect.connector": {
      const worst = asked.at === "output" ? f.out * 0.4 : Math.max(...f.pins);
      if (worst > 0.4)
        return c.weighted([
          ["melted", 0.5],
          ["green", 0.25],
          ["clean", 0.25],
        ]);
      if (worst > 0.1)
        return c.weighted([
          ["melted", 0.15],
          ["green", 0.45],
          ["clean", 0.4],
        ]);
      return c.weighted([
        ["clean", 0.88],
        ["green", 0.1],
        ["melted", 0.02],
      ]);
    }
    case "inspect.terminals":
      return f.post > 0.02
        ? c.weighted([
            ["loose", 0.4],
            ["corroded", 0.3],
            ["tight", 0.3],
          ])
        : c.weighted([
            ["tight", 0.9],
            ["corroded", 0.06],
            ["loose", 0.04],
          ]);
    case "inspect.ground":
      return f.ground > 0.5 ? c.pick(["broken", "sound"]) : c.yes(0.97) ? "sound" : "broken";
    case "inspect.fluid":
      return chemistry === "flooded" && (f.runaway || f.setVolts > 0.8) ? (c.yes(0.6) ? "low" : "ok") : c.yes(0.85) ? "ok" : "low";
    case "inspect.belt":
      if (f.belt >= 1) return "missing";
      return f.belt > 0.1 ? (c.yes(0.75) ? "slack" : "ok") : c.yes(0.92) ? "ok" : "slack";
    case "inspect.brushes":
      return (f.brush > 1.5 ? c.yes(0.8) : c.yes(0.12)) ? "worn" : "ok";
    case "generator.motoring": {
      const word = f.brush > 3 ? "nothing" : f.fieldOpen || f.armature < 0.8 ? "hums" : "turns";
      return c.yes(0.95) ? word : c.pick(["turns", "hums", "nothing"]);
    }
    case "regulator.feedLamp":
      return lamp(f.feedCut || f.fuseBlown ? 1e9 : f.out);
    case "regulator.groundLamp":
      return lamp(f.ground);
    case "rotor.pull":
      return f.weak < 0.8
        ? c.weighted([
            ["weak-all", 0.7],
            ["even", 0.3],
          ])
        : "even";
    case "inspect.tach": {
      const leg = Number(asked.at) - 1;
      if ((f.pins[leg] ?? 0) > 1000 || f.slip < 0.1) return "dead";
      // A wire that a diode ties to a rail swings by little more than another diode's volts.
      if (f.upper[leg] === "short" || f.lower[leg] === "short") return c.pick(["dead", "jumps", "steady"]);
      return c.yes(0.95) ? "steady" : "jumps";
    }
    case "swap.unit":
      return "same";
    default:
      throw new Error(`nobody has looked for ${asked.test} in this world yet`);
  }
}

/** The value as a display of such steps shows it. */
export function round(value: number, step: number): number {
  return Number((Math.round(value / step) * step).toFixed(6));
}
