import { describe, expect, test } from "@jest/globals";
import { ac, charging, context, crank, reading, rest, toCase } from "../../tests/support/readings";
import { judgeAll } from "./judge";
import { nextStep, proofSteps, runList } from "./runlist";
import type { Reading } from "./step";
import { stepKey } from "./step";

const usual = context();
const listOf = (readings: Reading[], school = usual.school, skips: { step: string; reason: string }[] = []) =>
  runList(
    usual.sheet,
    school,
    judgeAll(readings, { ...usual, school }),
    skips.map((skip, i) => ({ id: `s${i}`, ...skip })),
  );
const keys = (readings: Reading[]) => listOf(readings).flatMap((stage) => stage.lines.map((line) => line.key));

describe("the run list", () => {
  test("starts with the walk round and proves the battery before anything else", () => {
    const stages = listOf([]);
    expect(stages.map((stage) => stage.group)).toEqual(["walk", "battery", "charge", "stator", "regulator", "wiring", "drain"]);
    expect(nextStep(stages)).toEqual({ test: "inspect.terminals" });
    expect(stages[1]?.lines.map((line) => line.key)).toEqual(["battery.rest", "battery.settled", "battery.crank"]);
  });

  test("follows the school: AC before ohms, regulator before stator", () => {
    const patrol = listOf([], context(undefined, "patrol").school).find((stage) => stage.group === "stator");
    expect(patrol?.lines[0]?.step.test).toBe("stator.acVolts");
    const parade = listOf([], context(undefined, "parade").school).map((stage) => stage.group);
    expect(parade.indexOf("regulator")).toBeLessThan(parade.indexOf("stator"));
  });

  test("asks for more when a reading calls for it, and only then", () => {
    expect(keys([rest(12.9), crank(10.8)])).not.toContain("battery.load");
    expect(keys([rest(12.9), crank(9.1)])).toEqual(expect.arrayContaining(["battery.load", "starter.cableDrop"]));
    expect(keys([reading("drain.current", 0.4)])).not.toContain("drain.unitUnplugged");
    expect(keys([reading("drain.current", 80)])).toEqual(expect.arrayContaining(["drain.unitUnplugged", "drain.fusePulled~main", "drain.fusePulled~F3"]));
    expect(keys([reading("regulator.feed", 0.2)])).toContain("fuse.continuity~main");
    expect(keys(charging(12.4, 12.3, 12))).toContain("stator.acVoltsAtUnit~1-2~5000");
  });

  test("what nothing asks for stands ready as more", () => {
    const battery = listOf([])[1];
    expect(battery?.more.map(stepKey)).toEqual(expect.arrayContaining(["battery.load", "battery.conductance", "battery.recovery"]));
  });

  test("a reading at another speed than the sheet's gets a line of its own", () => {
    const stages = listOf([reading("charge.volts", 13.2, { rpm: 2000, loads: "normal" })]);
    const charge = stages.find((stage) => stage.group === "charge");
    expect(charge?.lines).toHaveLength(4);
    expect(charge?.lines.at(-1)?.done?.value).toBe(13.2);
  });

  test("skipped steps are passed over, and a reading undoes the skip", () => {
    const skip = { step: "inspect.terminals", reason: "Can't reach it" };
    const skipped = listOf([], usual.school, [skip]);
    expect(skipped[0]?.lines[0]?.skipped).toBe("Can't reach it");
    expect(nextStep(skipped)).toEqual({ test: "inspect.connector", at: "stator" });
    expect(listOf([reading("inspect.terminals", "tight")], usual.school, [skip])[0]?.lines[0]).not.toHaveProperty("skipped");
  });

  test("readings after the repair leave it as it was", () => {
    expect(keys(charging(13, 14.2, 14.1, { afterRepair: true }))).toEqual(keys([]));
  });

  test("minutes shrink as steps are done; a place is reached, a plug parted and the engine started once for all that is read there", () => {
    const left = (readings: Reading[]) => listOf(readings).reduce((sum, stage) => sum + stage.minutesLeft, 0);
    expect(left([rest(12.9)])).toBeLessThan(left([]));
    const stage = (readings: Reading[], group: string) => listOf(readings).find((stage) => stage.group === group)?.minutesLeft ?? 0;
    // The first reading of a stage carries the way there.
    const pair = reading("stator.resistance", 0.4, { at: "1-2" });
    expect(stage([], "stator") - stage([pair], "stator")).toBeGreaterThanOrEqual(0.5);
    const [first, second] = [stage([], "charge"), stage([reading("charge.volts", 14.2, { rpm: "idle", loads: "normal" })], "charge")];
    expect(first - second).toBeGreaterThanOrEqual(1);
  });

  test("is done when every line is answered or skipped", () => {
    const open = listOf([]).flatMap((stage) => stage.lines.map((line) => ({ step: line.key, reason: "seen" })));
    expect(nextStep(listOf([], usual.school, open))).toBeUndefined();
  });
});

describe("the proof after the repair", () => {
  const names = (fault: string | undefined, readings: Reading[] = []) => proofSteps(usual.sheet, judgeAll(readings, usual), fault).map(stepKey);

  test("always reads the charging volts again", () => {
    expect(names(undefined)).toEqual(["charge.volts~~idle~normal", "charge.volts~~5000~normal", "charge.volts~~5000~all"]);
  });

  test("adds what the fault itself showed", () => {
    expect(names("battery.sulphated").slice(0, 2)).toEqual(["battery.rest", "battery.crank"]);
    expect(names("loads.parasitic")).toContain("drain.current");
    expect(names("stator.winding-open")).toContain("stator.acVolts~2-3~5000");
    const drop = [reading("charge.positiveDrop", 1.2, { rpm: 5000, loads: "normal" }), reading("charge.groundDrop", 0.02, { rpm: 5000, loads: "normal" })];
    expect(names("wiring.output-resistance", drop)).toContain("charge.positiveDrop~~5000~normal");
    expect(names("wiring.output-resistance", drop)).not.toContain("charge.groundDrop~~5000~normal");
  });

  test("needs nothing of a stator that was never the fault", () => {
    expect(names("regulator.no-output", [...toCase(["OL", "OL", "OL"]), ...ac([60, 60, 60])]).some((key) => key.startsWith("stator."))).toBe(false);
  });
});
