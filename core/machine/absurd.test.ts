import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS, demoSheet } from "../../demo/sheets";
import { absurdities } from "./absurd";
import { type Condition, conditionOf } from "./condition";
import type { Sheet } from "./sheet";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const ac = (low: number, high: number): Sheet["bands"] => [{ test: "stator.acVolts", rpm: 5000, low, high }];

describe("what is hard to believe is named, and simulated all the same", () => {
  test.each<[string, Partial<Sheet>, RegExp]>([
    ["volts of a power station", { bands: ac(900, 1100) }, /V peak in one winding .* more than such machines make/],
    ["volts of a bicycle lamp", { bands: ac(4, 6) }, /cannot charge a 12 V battery/],
    ["ohms of a heater", { bands: [{ test: "stator.resistance", low: 40, high: 60 }] }, /25\.0 Ω in one winding/],
    ["amps of a bus", { ratedAmps: 180 }, /180 A of output/],
    ["loads beyond all output", { loadAmps: { normal: 9, all: 90 } }, /can never be fed by 30 A/],
    ["a set point that boils", { bands: [{ test: "charge.volts", low: 17, high: 19 }] }, /boils the battery/],
    ["a set point that starves", { bands: [{ test: "charge.volts", low: 11, high: 12 }] }, /never charges the battery/],
  ])("%s", (_what, over, says) => {
    expect(absurdities({ ...sheet, ...over }, conditionOf()).join("; ")).toMatch(says);
  });

  test.each<[string, Partial<Condition>, RegExp]>([
    ["a desert", { ambientC: 55 }, /hotter than any workshop/],
    ["a polar night", { ambientC: -40 }, /colder than a battery starts at/],
  ])("%s", (_what, over, says) => expect(absurdities(sheet, conditionOf([], over)).join()).toMatch(says));

  test("four faults at once, but not the same one four times", () => {
    const four = (["rotor.weak", "stator.turns-shorted", "battery.sulphated", "loads.parasitic"] as const).map((fault) => ({ fault }));
    expect(absurdities(sheet, conditionOf(four)).join()).toMatch(/more than ever travel together/);
    expect(absurdities(sheet, conditionOf(four.map(() => ({ fault: "rotor.weak" as const }))))).toEqual([]);
  });

  test("no machine on the shelf is", () => {
    for (const sheet of DEMO_SHEETS) expect(absurdities(sheet, conditionOf())).toEqual([]);
  });
});
