import { describe, expect, test } from "@jest/globals";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { judgeAll } from "../../core/procedure/judge";
import { probesOf, stepsOf } from "../../core/procedure/step";
import { DEMO_SHEETS } from "../../demo/sheets";
import { ac, charging, context, diodes, pairs, reading, rest, toCase } from "../../tests/support/readings";
import { layOut, legY, meterX, spotOf, Y, ZONE_WIDTH, ZONES, zoneOf, zonesOf } from "./layout";
import { tagsOf } from "./tags";

const { sheet } = context();
const whole = layOut(ZONES);

describe("the strip", () => {
  test("lays its zones side by side without a gap", () => {
    expect(whole.width).toBe(Object.values(ZONE_WIDTH).reduce((sum, width) => sum + width, 0));
    ZONES.forEach((zone, i) => {
      const before = ZONES.slice(0, i).reduce((sum, zone) => sum + ZONE_WIDTH[zone], 0);
      expect(whole.left[zone]).toBe(before);
    });
  });

  test("folded, it keeps the order and drops the rest", () => {
    const folded = layOut(["battery", "connector"]);
    expect(folded.zones).toEqual(["connector", "battery"]);
    expect(folded.width).toBe(ZONE_WIDTH.connector + ZONE_WIDTH.battery);
  });

  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: every probe of every step lies on the strip, folded or not", (_id, sheet) => {
    for (const step of CATALOGUE.flatMap((row) => stepsOf(row, sheet))) {
      const probes = probesOf(step);
      const folded = layOut(zonesOf(step));
      expect(folded.zones.length).toBeGreaterThanOrEqual(1);
      if (!probes) continue;
      for (const layout of [whole, folded]) {
        for (const point of [probes.red, probes.black]) {
          const spot = spotOf(point, sheet, layout);
          expect(spot).toBeDefined();
          expect(spot?.x).toBeGreaterThan(0);
          expect(spot?.x).toBeLessThan(layout.width);
          expect(spot?.y).toBeLessThanOrEqual(Y.rail);
        }
      }
    }
  });

  test.each(["inspect.belt", "inspect.brushes", "generator.motoring", "rotor.pull"] as const)("%s, a look without probes, shows the generator", (test) => {
    expect(zonesOf({ test })).toContain("generator");
  });

  test("a point in a folded zone, or of a leg the sheet lacks, has no spot", () => {
    expect(spotOf("battery+", sheet, layOut(["generator", "connector"]))).toBeUndefined();
    expect(spotOf("leg:9", sheet, whole)).toBeUndefined();
  });

  test("legs stand about the middle, one leg on it", () => {
    expect(legY({ legs: sheet.legs.slice(0, 1) }, 0)).toBe(legY(sheet, 1));
  });

  test("the two probes never stand on one spot", () => {
    for (const step of CATALOGUE.flatMap((row) => stepsOf(row, sheet))) {
      const probes = probesOf(step);
      if (probes) expect(spotOf(probes.red, sheet, whole)).not.toEqual(spotOf(probes.black, sheet, whole));
    }
  });

  test("the meter stays on the strip", () => {
    for (const step of CATALOGUE.flatMap((row) => stepsOf(row, sheet))) {
      const probes = probesOf(step);
      if (!probes) continue;
      const layout = layOut(zonesOf(step));
      const red = spotOf(probes.red, sheet, layout);
      const black = spotOf(probes.black, sheet, layout);
      if (!red || !black) throw new Error("no spot");
      const x = meterX(red, black, layout, 112);
      expect(x).toBeGreaterThanOrEqual(6);
      expect(x + 112).toBeLessThanOrEqual(layout.width);
    }
  });

  test("points belong to the zone they are drawn in", () => {
    expect([zoneOf("leg:1"), zoneOf("engine"), zoneOf("unitLeg:2"), zoneOf("B+"), zoneOf("fuse:main:in"), zoneOf("starter+"), zoneOf("cable-")]).toEqual([
      "connector",
      "connector",
      "unit",
      "unit",
      "output",
      "loads",
      "battery",
    ]);
  });
});

describe("the tags", () => {
  test("hang where the readings were taken, one a test, figures in the order of the points", () => {
    const readings = [
      rest(12.8),
      ...charging(12.5, 12.4, 12.1),
      ...pairs("stator.resistance", [0.3, 0.31, 0.3]),
      ...toCase(["OL", "OL", "OL"]),
      ...ac([60, 61, 60]),
      ...diodes(),
      reading("drain.current", 0.4),
    ];
    const tags = tagsOf(judgeAll(readings, context()), sheet);
    expect(tags.map((tag) => [tag.zone, tag.text, tag.bad])).toEqual([
      ["connector", "pairs 0.30 0.31 0.30 Ω", false],
      ["connector", "to case OL", false],
      ["connector", "AC 60 61 60", false],
      ["unit", "diodes 14 good", false],
      ["battery", "rest 12.80 V", false],
      ["battery", "charging 12.40 12.10 V", true],
      ["loads", "drain 0.4 mA", false],
    ]);
  });

  test("bad diodes are counted, bad readings marked", () => {
    const tags = tagsOf(judgeAll([...diodes({ "1>B+": "OL", "2>B+": "OL" }), ...toCase([0.4, "OL"])], context()), sheet);
    expect(tags.map((tag) => [tag.text, tag.bad])).toEqual([
      ["to case 0.40 OL Ω", true],
      ["diodes 2 of 14 bad", true],
    ]);
  });

  test("what eyes found broken hangs where it is, until it is answered otherwise; what is sound goes without saying", () => {
    const found = [
      reading("inspect.terminals", "loose"),
      reading("inspect.connector", "clean", { at: "stator" }),
      reading("inspect.connector", "melted", { at: "output" }),
      reading("inspect.ground", "broken"),
      reading("fuse.continuity", "OL", { at: "main" }),
      rest(12.8),
    ];
    expect(tagsOf(judgeAll(found, context()), sheet).map((tag) => [tag.zone, tag.text, tag.bad])).toEqual([
      ["unit", "ground broken", true],
      ["output", "plug melted", true],
      ["output", "fuse OL", true],
      ["battery", "posts loose", true],
      ["battery", "rest 12.80 V", false],
    ]);
    expect(tagsOf(judgeAll([reading("inspect.ground", "sound"), reading("fuse.continuity", 0.1, { at: "main" })], context()), sheet)).toEqual([]);
  });

  test("there are none without readings", () => {
    expect(tagsOf([], sheet)).toEqual([]);
  });
});
