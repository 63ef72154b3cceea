import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS, demoSheet } from "../../../demo/sheets";
import { conditionOf } from "../../machine/condition";
import type { SetFault } from "../../machine/defects";
import type { Part } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import { type JudgingContext, judgeAll } from "../../procedure/judge";
import { nextStep, runList } from "../../procedure/runlist";
import { schoolOf } from "../../procedure/schools";
import { simulateStep } from "../../procedure/simulate";
import type { Reading } from "../../procedure/step";
import { concludeJudged } from "./flowchart";

const METER = { name: "m", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
const wye = demoSheet("corvane-ferrel-650") as Sheet;
const delta = demoSheet("brannoch-corrie-600") as Sheet;
const series = demoSheet("brannoch-fell-850") as Sheet;
const mosfet = demoSheet("tidewright-reach-90") as Sheet;

/** Works a simulated machine down the run list, one reading after another as the list asks, and concludes. */
function work(sheet: Sheet, faults: SetFault[], charge = 1) {
  const context: JudgingContext = { sheet, school: schoolOf("harbour"), meter: METER, ambientC: 20 };
  const condition = conditionOf(faults, { charge });
  const readings: Reading[] = [];
  for (let turn = 0; turn < 120; turn++) {
    const step = nextStep(runList(sheet, context.school, judgeAll(readings, context), []));
    if (!step) break;
    const { value } = simulateStep(sheet, condition, step, METER, { restHours: 12 });
    readings.push({ ...step, id: `t${turn}`, value, raw: true });
  }
  return { conclusion: concludeJudged(judgeAll(readings, context), context), readings };
}

describe("a sound simulated machine is found healthy", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s", (_id, sheet) => {
    expect(work(sheet, []).conclusion).toMatchObject({ status: "healthy", part: "none" });
  });
});

describe("one plain fault, worked down the list, is laid at its part", () => {
  test.each<[string, Sheet, SetFault, Part]>([
    ["a worn-out battery", wye, { fault: "battery.sulphated", severity: 6 }, "battery"],
    ["a shorted cell", delta, { fault: "battery.shorted-cell", severity: 1 }, "battery"],
    ["weak magnets", wye, { fault: "rotor.weak", severity: 0.5 }, "rotor"],
    ["an open winding, wye", wye, { fault: "stator.winding-open", at: "2" }, "stator"],
    ["an open winding, delta", delta, { fault: "stator.winding-open", at: "3" }, "stator"],
    ["a winding on the case", wye, { fault: "stator.winding-grounded", at: "1", along: 0.5, severity: 0.01 }, "stator"],
    ["an open winding behind a series unit", series, { fault: "stator.winding-open", at: "1" }, "stator"],
    ["a unit that makes nothing", wye, { fault: "regulator.no-output" }, "regulator"],
    ["a series unit that makes nothing", series, { fault: "regulator.no-output" }, "regulator"],
    ["a unit that lets the volts climb", delta, { fault: "regulator.set-high", severity: 2 }, "regulator"],
    ["a synchronous unit that lets the volts climb", mosfet, { fault: "regulator.never-regulates" }, "regulator"],
    ["a shorted diode", wye, { fault: "regulator.diode-shorted", at: "B->2" }, "regulator"],
    ["volts lost in the output wire", wye, { fault: "wiring.output-resistance", severity: 0.2 }, "wiring"],
    ["an open main fuse", wye, { fault: "wiring.feed-open" }, "wiring"],
    ["a draw with the key out", wye, { fault: "loads.parasitic", at: "F3", severity: 120 }, "loads"],
  ])("%s", (_what, sheet, fault, part) => {
    const { conclusion, readings } = work(sheet, [fault]);
    expect({ part: conclusion.part, after: readings.length > 5 }).toEqual({ part, after: true });
  });
});

describe("what a fixed order cannot see", () => {
  test("a third of one winding's turns shorted leaves the charging volts in band: only AC tells", () => {
    const { readings } = work(wye, [{ fault: "stator.turns-shorted", at: "1", severity: 0.35 }]);
    const charging = readings.filter((one) => one.test === "charge.volts" && one.rpm !== "idle").map((one) => one.value as number);
    expect(Math.min(...charging)).toBeGreaterThan(13.8);
  });

  test("a flat battery is proved by charging it first, not condemned", () => {
    expect(work(wye, [], 0.1).conclusion).toMatchObject({ status: "narrowed", fault: "battery.discharged" });
  });
});
