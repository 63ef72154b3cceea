import type { SetFault } from "../machine/defects";
import { familyOf, isMirrored } from "../machine/families/registry";
import { parseFaults } from "../machine/parse";
import { type Point, pointsAlong } from "../machine/points";
import type { FieldProblem, Sheet } from "../machine/sheet";
import { CONNECTORS, type Connector, type Loads, type Standing } from "../machine/standing";
import type { MeterDial } from "../meter/read";

/** Everything that can be set on the rig; it travels in the page's address, so that a set-up is shared by sending it. */
export interface RigSetup {
  faults: readonly SetFault[];
  engine: "off" | "cranking" | "running";
  key: "out" | "on";
  rpm: number;
  loads: Loads;
  unplug: readonly Connector[];
  pulled: readonly string[];
  /** What feeds a field winding: its regulator, or a wire past it. */
  field: "regulated" | "full";
  dial: MeterDial;
  red: Point;
  black: Point;
  /** What the scope draws: points against battery minus ("leg:1"), pairs ("leg:1,leg:2"), currents ("@battery"). */
  channels: readonly string[];
  ambientC: number;
  /** State of charge, 0 to 1. */
  charge: number;
}

export const RIG_DIALS: readonly MeterDial[] = ["V DC", "V AC", "Ω", "diode", "A DC", "clamp"];
export const MOST_CHANNELS = 4;
export const RPM_RANGE = { low: 300, high: 9000 } as const;

/** The rig as it stands first: a sound machine idling, the meter on the battery. */
export function firstSetup(sheet: Sheet): RigSetup {
  return {
    faults: [],
    engine: "running",
    key: "on",
    rpm: sheet.idleRpm,
    loads: "normal",
    unplug: [],
    pulled: [],
    field: "regulated",
    dial: "V DC",
    // Red goes on the plus post, which on a machine with every pole turned round is the one that is earthed.
    red: isMirrored(sheet) ? "battery-" : "battery+",
    black: isMirrored(sheet) ? "battery+" : "battery-",
    channels: [`unitLeg:${sheet.legs[0]?.id}`, "battery+", "@battery"],
    ambientC: 20,
    charge: 0.9,
  };
}

/** How the machine stands in a set-up. */
export function standingOf(setup: RigSetup): Standing {
  const { engine, key, rpm, loads, unplug, pulled, field } = setup;
  return { engine, key: engine === "off" ? key : "on", rpm, loads, unplug, pulled, fullField: field === "full" };
}

/** A fault as it stands in an address: `stator.winding-grounded,at=1,along=0.3,severity=0.05`. */
export function faultText({ fault, ...seat }: SetFault): string {
  const parts = (["at", "along", "severity", "coupling"] as const).flatMap((part) => (seat[part] === undefined ? [] : [`${part}=${seat[part]}`]));
  return [fault, ...parts].join(",");
}

/** Reads a fault as text into data; what cannot be read is left for {@link parseFaults} to name. */
export function faultFromText(text: string): Record<string, string | number> {
  const [fault = "", ...rest] = text.split(",");
  const set: Record<string, string | number> = { fault };
  for (const part of rest) {
    const [key = "", ...value] = part.split("=");
    set[key] = key === "at" ? value.join("=") : Number(value.join("="));
  }
  return set;
}

/** The address's parameters of a set-up; what is as at first is left out. */
export function toParams(setup: RigSetup, sheet: Sheet): URLSearchParams {
  const params = new URLSearchParams({ sheet: sheet.id });
  const first = firstSetup(sheet);
  for (const fault of setup.faults) params.append("fault", faultText(fault));
  for (const name of ["engine", "key", "rpm", "loads", "field", "dial", "red", "black", "ambientC", "charge"] as const)
    if (setup[name] !== first[name]) params.set(name, String(setup[name]));
  for (const name of ["unplug", "pulled"] as const) if (setup[name].length > 0) params.set(name, setup[name].join(" "));
  if (setup.channels.join(" ") !== first.channels.join(" ")) params.set("scope", setup.channels.join(" "));
  return params;
}

/** Reads an address; what it gets wrong is left as at first and told, so that half a set-up still comes up. */
export function fromParams(params: URLSearchParams, sheet: Sheet): { setup: RigSetup; problems: FieldProblem[] } {
  const setup = firstSetup(sheet);
  const problems: FieldProblem[] = [];
  const word = <T extends string>(name: keyof RigSetup & string, allowed: readonly T[], keep: (value: T) => void): void => {
    const value = params.get(name);
    if (value === null) return;
    if ((allowed as readonly string[]).includes(value)) keep(value as T);
    else problems.push({ field: name, error: `“${value}” must be one of ${allowed.join(", ")}` });
  };
  const figure = (name: "rpm" | "ambientC" | "charge", low: number, high: number): void => {
    const value = params.get(name);
    if (value === null) return;
    const number = Number(value);
    if (value !== "" && number >= low && number <= high) setup[name] = number;
    else problems.push({ field: name, error: `must be a number from ${low} to ${high}` });
  };
  const list = <T extends string>(name: "unplug" | "pulled", allowed: readonly T[]): T[] => {
    const named = (params.get(name) ?? "").split(" ").filter(Boolean);
    const wrong = named.filter((name) => !(allowed as readonly string[]).includes(name));
    if (wrong.length > 0) problems.push({ field: name, error: `“${wrong.join(" ")}” must be among ${allowed.join(", ")}` });
    return named.filter((name): name is T => (allowed as readonly string[]).includes(name));
  };
  const points = pointsAlong(sheet);
  word("engine", ["off", "cranking", "running"], (value) => {
    setup.engine = value;
  });
  word("key", ["out", "on"], (value) => {
    setup.key = value;
  });
  word("loads", ["off", "normal", "all"], (value) => {
    setup.loads = value;
  });
  word("field", familyOf(sheet.family).field ? ["regulated", "full"] : ["regulated"], (value) => {
    setup.field = value;
  });
  word("dial", RIG_DIALS, (value) => {
    setup.dial = value;
  });
  word("red", points, (value) => {
    setup.red = value;
  });
  word("black", points, (value) => {
    setup.black = value;
  });
  figure("rpm", RPM_RANGE.low, RPM_RANGE.high);
  figure("ambientC", -40, 60);
  figure("charge", 0, 1);
  setup.unplug = list("unplug", CONNECTORS);
  setup.pulled = list(
    "pulled",
    sheet.fuses.map((fuse) => fuse.id),
  );
  const channels = params.get("scope");
  if (channels !== null) setup.channels = channels.split(" ").filter(Boolean).slice(0, MOST_CHANNELS);
  const faults = parseFaults(params.getAll("fault").map(faultFromText), sheet);
  if (faults.ok) setup.faults = faults.faults;
  else problems.push(...faults.problems);
  return { setup, problems };
}
