import type { Sheet } from "../../core/machine/sheet";
import { type TestId, testOf } from "../../core/procedure/catalogue";
import { isBad, type JudgedReading } from "../../core/procedure/judge";
import { pointsOf } from "../../core/procedure/step";
import { formatValue } from "../../core/units";
import type { ReadingTag, Zone } from "./layout";

interface Hang {
  test: TestId;
  zone: Zone;
  short: string;
  /** Hangs only where something was found: what is sound there goes without saying. */
  ifBad?: true;
  /** Of this place alone. */
  at?: string;
}

/** How a test's readings are named on the loom, and where they hang. Where a zone has no room for all, the later ones stay. */
const HANGS: Hang[] = [
  { test: "rotor.pull", zone: "generator", short: "magnets", ifBad: true },
  { test: "inspect.belt", zone: "generator", short: "belt", ifBad: true },
  { test: "inspect.brushes", zone: "generator", short: "brushes", ifBad: true },
  { test: "generator.motoring", zone: "generator", short: "as motor", ifBad: true },
  { test: "field.resistance", zone: "generator", short: "field", ifBad: true },
  { test: "inspect.connector", at: "stator", zone: "connector", short: "plug", ifBad: true },
  { test: "inspect.ground", zone: "unit", short: "ground", ifBad: true },
  { test: "regulator.groundLamp", zone: "unit", short: "ground lamp", ifBad: true },
  { test: "charge.groundDrop", zone: "unit", short: "ground drop", ifBad: true },
  { test: "inspect.connector", at: "output", zone: "output", short: "plug", ifBad: true },
  { test: "regulator.feedLamp", zone: "output", short: "lamp", ifBad: true },
  { test: "fuse.continuity", zone: "output", short: "fuse", ifBad: true },
  { test: "inspect.terminals", zone: "battery", short: "posts", ifBad: true },
  { test: "battery.postDrop", zone: "battery", short: "post drop", ifBad: true },
  { test: "battery.load", zone: "battery", short: "load", ifBad: true },
  { test: "starter.cableDrop", zone: "loads", short: "cable drop", ifBad: true },
  { test: "stator.resistance", zone: "connector", short: "pairs" },
  { test: "stator.toGround", zone: "connector", short: "to case" },
  { test: "stator.acVolts", zone: "connector", short: "AC" },
  { test: "stator.dcVolts", zone: "connector", short: "DC" },
  { test: "regulator.diode", zone: "unit", short: "diodes" },
  { test: "regulator.ground", zone: "unit", short: "ground" },
  { test: "stator.acVoltsAtUnit", zone: "unit", short: "AC here" },
  { test: "charge.outputVolts", zone: "output", short: "out" },
  { test: "regulator.feed", zone: "output", short: "feed" },
  { test: "charge.positiveDrop", zone: "output", short: "drop" },
  { test: "battery.rest", zone: "battery", short: "rest" },
  { test: "battery.crank", zone: "battery", short: "crank" },
  { test: "charge.volts", zone: "battery", short: "charging" },
  { test: "drain.current", zone: "loads", short: "drain" },
  { test: "drain.unitUnplugged", zone: "loads", short: "unit out" },
];

/** The tags for a job's readings: one a test, its values in the order of the points. */
export function tagsOf(judged: readonly JudgedReading[], sheet: Sheet): ReadingTag[] {
  return HANGS.flatMap(({ test, zone, short, ifBad, at }) => {
    const all = judged.filter(({ reading }) => reading.test === test && (at === undefined || reading.at === at));
    const fast = all.filter((judgedReading) => judgedReading.reading.rpm !== "idle");
    const mine = fast.length > 0 ? fast : all;
    const last = mine.at(-1);
    if (!last) return [];
    const row = testOf(test);
    const bad = mine.some((judgedReading) => isBad(judgedReading.judged));
    if (ifBad && !bad) return [];
    return [{ zone, text: `${short} ${figures(mine, row.id as TestId, sheet)}`, bad, step: last.reading }];
  });
}

/** Volts AC are told by the test's name, words have no unit. */
const UNSAID: readonly string[] = ["V AC", "choice"];

function figures(mine: readonly JudgedReading[], id: TestId, sheet: Sheet): string {
  const test = testOf(id);
  if (test.points === "diode") {
    const bad = mine.filter((judgedReading) => isBad(judgedReading.judged)).length;
    return bad === 0 ? `${mine.length} good` : `${bad} of ${mine.length} bad`;
  }
  const points = pointsOf(test, sheet);
  const ordered = points[0] === undefined ? mine.slice(-1) : points.flatMap((at) => mine.findLast((judgedReading) => judgedReading.reading.at === at) ?? []);
  const loaded = test.runs && test.points === "none" ? mine.slice(-2) : ordered;
  const values = loaded.map((judgedReading) => formatValue(judgedReading.value, test.unit));
  const same = values.length > 0 && values.every((value) => value === "OL");
  return `${same ? "OL" : values.join(" ")} ${UNSAID.includes(test.unit) || same ? "" : test.unit}`.trim();
}
