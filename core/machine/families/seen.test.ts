import { describe, expect, test } from "@jest/globals";
import { unlistedSheet } from "../unlisted";
import { FAMILIES } from "./all";
import { familiesSeen, type Seen, tellingNext } from "./seen";

const left = (seen: Seen): string[] => familiesSeen(seen).map(({ id }) => id);

describe("what eyes see of a machine without a sheet", () => {
  test.each<[Seen, string[]]>([
    [{ unit: "blades" }, ["single-phase-two-wire"]],
    [{ wires: 2, unit: "none" }, ["dual-output-unregulated"]],
    [{ wires: 4 }, ["multi-winding"]],
    [{ generator: "commutator" }, ["dc-generator"]],
    [{ generator: "rings" }, ["field-excited"]],
    [{ wires: 2, unit: "finned", generator: "flywheel", earthed: "some" }, ["ground-referenced-pair"]],
    [{ wires: 3, unit: "can" }, []],
  ])("%j leaves %j", (seen, families) => {
    expect(left(seen)).toEqual(families);
  });

  test("of three wires the unit's own kind is left to the readings", () => {
    expect(left({ wires: 3, generator: "flywheel" })).toEqual(["three-phase", "single-phase-common"]);
  });

  test("nothing answered leaves everything, and every family can be left alone or beside what a meter must tell", () => {
    const covered = new Set(["three-phase-shunt", "three-phase-series", "three-phase-mosfet"]);
    expect(new Set(left({}))).toEqual(new Set(FAMILIES.map(({ id }) => id).filter((id) => !covered.has(id))));
    for (const { id, looks, mayBe } of FAMILIES) {
      if (mayBe.length > 0 || covered.has(id)) continue;
      for (const wires of looks.wires)
        for (const unit of looks.unit) expect(left({ wires, unit, generator: looks.generator, earthed: looks.earthed })).toContain(id);
    }
  });

  test("says what would tell those that are left apart, and nothing where one is left", () => {
    expect(tellingNext(familiesSeen({}))).toMatch(/^Look at the generator/);
    expect(tellingNext(familiesSeen({ wires: 2, unit: "finned", generator: "flywheel" }))).toMatch(/^Read ohms from each wire to clean engine metal/);
    expect(tellingNext(familiesSeen({ wires: 3, generator: "flywheel" }))).toMatch(/two that add up to the third/);
    expect(tellingNext(familiesSeen({ unit: "blades" }))).toBeUndefined();
  });

  test("an old generator is not revved for a test as a modern engine is", () => {
    expect(unlistedSheet("dc-generator", 6, "motorcycle").testRpm).toBe(3000);
    expect(unlistedSheet("three-phase", 12, "motorcycle").testRpm).toBe(5000);
  });
});
