import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../../demo/sheets";
import { curveOf } from "../../diagnosis/population/curve";
import { FAMILIES } from "./all";
import { atHome, directionsOf, gatesWhile, leadsOf, renamed, turnHome, type UnitPlan } from "./family";
import { familyOf, mistakenFor } from "./registry";

const KNOWN = FAMILIES.filter(({ unit }) => unit).map((family) => [family.id, family] as const);
const machineOf = (id: string) => {
  const sheet = DEMO_SHEETS.find(({ family }) => family === id);
  if (!sheet) throw new Error(`no demo machine is of ${id}`);
  return sheet;
};

describe("the families", () => {
  test.each(KNOWN.filter(([, { unit }]) => !unit?.inLead))(
    "%s: its switches stand one way to give all, the other to hold all back, and the circuit does so",
    (id, { unit }) => {
      expect(new Set([gatesWhile(unit as UnitPlan, "giving"), gatesWhile(unit as UnitPlan, "holding")])).toEqual(new Set(["on", "off"]));
      const { full, held } = curveOf(machineOf(id), [], "test", true);
      const [giving, holding] = [Math.max(...full), Math.max(...(held ?? []))];
      expect(giving).toBeGreaterThan(0.8 * (machineOf(id).ratedAmps ?? Number.NaN));
      // A wire that nothing shorts goes on giving what its own winding makes.
      const partly = Array.isArray(unit?.shunts) && unit.shunts.length > 0;
      expect(holding).toBeLessThan((partly ? 0.2 : 0.1) * giving);
    },
  );

  test.each(KNOWN.filter(([, { ownNames }]) => ownNames))("%s: what is fitted for it by mistake holds the volts the other way", (id, { unit }) => {
    expect(mistakenFor(id)?.unit?.holds).not.toBe(unit?.holds);
  });

  test.each(KNOWN)("%s: under each of its other names every winding, way and pair is one of its own", (id, family) => {
    const leads = leadsOf(machineOf(id));
    const places = [...family.ways(leads), ...leads, ...family.neighbours(leads)];
    const names = family.alike(leads);
    expect(names[0]).toEqual(leads);
    for (const called of names) {
      expect([...called].sort()).toEqual([...leads].sort());
      expect(new Set(places.map((at) => renamed(at, leads, called)))).toEqual(new Set(places));
    }
    for (const at of places) expect(turnHome(renamed(at, leads, names[turnHome(at, family, leads)] ?? []), family, leads)).toBe(0);
    expect(atHome(family.ways(leads), family, leads).length * names.length).toBe(family.ways(leads).length);
  });

  test("a unit that no other fits in the place of is never taken for another", () => {
    for (const { id } of FAMILIES.filter(({ ownNames }) => !ownNames)) expect(mistakenFor(id)).toBeUndefined();
  });

  test("a family whose unit nobody knows says nothing of it, and the kinds it may be are met as often as not", () => {
    const { unit, mayBe } = familyOf("three-phase");
    expect(unit).toBeUndefined();
    expect(mayBe.reduce((sum, [, met]) => sum + met, 0)).toBeCloseTo(1, 12);
    for (const [family] of mayBe) expect(family.unit).toBeDefined();
    expect(() => familyOf("nobody")).toThrow("nobody");
  });

  test("a unit is tested every way forward and backward, and rail to rail", () => {
    expect(directionsOf(familyOf("three-phase-shunt"), ["a", "B"])).toEqual(["a>B+", "B>B+", "B+>a", "B+>B", "B->a", "B->B", "a>B-", "B>B-", "B->B+", "B+>B-"]);
    // A wire may bear a rail's letter and is none.
    expect(renamed("B>B+", ["a", "B"], ["B", "a"])).toBe("a>B+");
    expect(renamed("B->B", ["a", "B"], ["B", "a"])).toBe("B->a");
    expect(renamed("B-a", ["a", "B"], ["B", "a"])).toBe("a-B");
  });
});
