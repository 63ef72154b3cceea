import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../../demo/sheets";
import { curveOf } from "../../diagnosis/population/curve";
import { type CircuitFamily, FAMILY_IDS, gatesWhile, isUnitUnknown, mistakenFor, UNITS_MET, unitTraits } from "./family";

const KNOWN = FAMILY_IDS.filter((id): id is CircuitFamily => !isUnitUnknown(id));
describe("the families", () => {
  test.each(KNOWN)("%s: its switches stand one way to give all, the other to hold all back, and the circuit does so", (family) => {
    expect(new Set([gatesWhile(family, "giving"), gatesWhile(family, "holding")])).toEqual(new Set(["on", "off"]));
    const sheet = DEMO_SHEETS.find((one) => one.family === family);
    if (!sheet) throw new Error(`no demo machine is of ${family}`);
    const { full, held } = curveOf(sheet, [], "test", true);
    const [giving, holding] = [Math.max(...full), Math.max(...(held ?? []))];
    expect(giving).toBeGreaterThan(5);
    expect(holding).toBeLessThan(0.1 * giving);
  });

  test.each(KNOWN)("%s: what is fitted for it by mistake holds the volts the other way", (family) => {
    expect(unitTraits(mistakenFor(family)).holds).not.toBe(unitTraits(family).holds);
  });

  test("a unit that nobody knows says nothing of itself, and the kinds it may be are met as often as not", () => {
    const unknown = FAMILY_IDS.filter(isUnitUnknown);
    expect(unknown).toEqual(["three-phase"]);
    for (const id of unknown) expect(unitTraits(id)).toMatchObject({ holds: undefined, switched: [], bodyDiodes: false });
    expect(UNITS_MET.reduce((sum, [, met]) => sum + met, 0)).toBeCloseTo(1, 12);
    for (const [family] of UNITS_MET) expect(KNOWN).toContain(family);
  });
});
