import { describe, expect, test } from "@jest/globals";
import { isWeighed } from "../diagnosis/population/look";
import { FAMILIES } from "../machine/families/all";
import { unlistedSheet } from "../machine/unlisted";
import { bandFor } from "./bands";
import { CATALOGUE, type TestId, testOf } from "./catalogue";
import { SCHOOLS, type School } from "./schools";
import { stepsOf } from "./step";

/** The tests that the case file promises, with the unit of each. */
const PROMISED: Record<string, string> = {
  "battery.rest": "V",
  "battery.settled": "V",
  "battery.crank": "V",
  "battery.load": "V",
  "battery.conductance": "%",
  "battery.crankingAmps": "A",
  "battery.innerOhms": "mΩ",
  "battery.recovery": "V",
  "starter.cableDrop": "V",
  "starter.amps": "A",
  "charge.volts": "V",
  "charge.outputVolts": "V",
  "charge.positiveDrop": "V",
  "charge.groundDrop": "V",
  "charge.ripple": "V AC",
  "charge.current": "A",
  "stator.resistance": "Ω",
  "stator.toGround": "Ω",
  "stator.acVolts": "V AC",
  "stator.acVoltsAtUnit": "V AC",
  "stator.dcVolts": "V",
  "stator.diode": "V",
  "regulator.diode": "V",
  "regulator.feed": "V",
  "regulator.ground": "Ω",
  "regulator.feedLamp": "choice",
  "regulator.groundLamp": "choice",
  "drain.current": "mA",
  "drain.unitUnplugged": "mA",
  "drain.fusePulled": "mA",
  "fuse.continuity": "Ω",
  "rotor.pull": "choice",
  "field.resistance": "Ω",
  "field.supply": "V",
  "field.fullField": "V",
  "generator.motoring": "choice",
  "generator.output": "V",
  "generator.field": "Ω",
  "generator.armature": "Ω",
  "inspect.connector": "choice",
  "inspect.terminals": "choice",
  "inspect.ground": "choice",
  "inspect.fluid": "choice",
  "inspect.belt": "choice",
  "inspect.brushes": "choice",
  "swap.unit": "choice",
};

/** Judged and noted, and said to be no more than that: what they show depends on more than a sheet or a circuit knows. */
const NOTED: readonly TestId[] = ["drain.connectorParted"];

const [school] = SCHOOLS as [School];
const machines = FAMILIES.filter(({ mayBe }) => mayBe.length === 0).map(({ id }) => ({
  ...unlistedSheet(id, 12),
  battery: { chemistry: "flooded" as const, ah: 14, cca: 150 },
}));

describe("every test that the case file promises", () => {
  test.each(Object.entries(PROMISED))("%s, in %s, can be taken on some machine and has a band there", (id, unit) => {
    expect(testOf(id as TestId).unit).toBe(unit);
    const taken = machines.flatMap((sheet) => stepsOf(testOf(id as TestId), sheet).map((step) => ({ sheet, step })));
    expect(taken.length).toBeGreaterThan(0);
    for (const { sheet, step } of taken) expect([step, bandFor(step, sheet, school) !== undefined]).toEqual([step, true]);
  });

  test("is weighed, but for those that are plainly marked as noted only", () => {
    const notedOf = (family: string): TestId[] => CATALOGUE.map(({ id }) => id).filter((id) => !isWeighed(id, { family }));
    expect(notedOf("three-phase-shunt")).toEqual([...NOTED]);
    expect(notedOf("field-excited").sort()).toEqual([...NOTED, "charge.ripple"].sort());
  });
});
