import type { Sheet } from "../../core/machine/sheet";
import { type TestId, testOf } from "../../core/procedure/catalogue";
import { isBad, type JudgedReading } from "../../core/procedure/judge";
import { pointsOf } from "../../core/procedure/step";
import { formatValue } from "../../core/units";
import type { ReadingTag, Zone } from "./layout";

/** How a test's readings are named on the loom, and where they hang. At most three tags hang in a zone. */
const HANGS: { test: TestId; zone: Zone; short: string }[] = [
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
  return HANGS.flatMap(({ test, zone, short }) => {
    const all = judged.filter((judgedReading) => judgedReading.reading.test === test);
    const fast = all.filter((judgedReading) => judgedReading.reading.rpm !== "idle");
    const mine = fast.length > 0 ? fast : all;
    const last = mine.at(-1);
    if (!last) return [];
    const row = testOf(test);
    const bad = mine.some((judgedReading) => isBad(judgedReading.judged));
    return [{ zone, text: `${short} ${figures(mine, row.id as TestId, sheet)}`, bad, step: last.reading }];
  });
}

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
  const same = values.length > 1 && values.every((value) => value === "OL");
  return `${same ? "OL" : values.join(" ")} ${test.unit === "V AC" || same ? "" : test.unit}`.trim();
}
