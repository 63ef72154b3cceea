import { describe, expect, test } from "@jest/globals";
import { OTHER_SHEETS } from "../../../demo/otherSheets";
import { PARTIAL_SHEETS } from "../../../demo/partialSheets";
import { DEMO_SHEETS, THREE_PHASE_SHEETS } from "../../../demo/sheets";
import { atlasKey } from "../../../store/atlases";
import { sheetOf } from "../../../tests/support/population";
import { leadsOf } from "../../machine/families/family";
import { FAMILY_IDS, familyOf } from "../../machine/families/registry";
import { KIND_IDS } from "../../machine/kind";
import type { Sheet } from "../../machine/sheet";
import { healthyState } from "../../machine/state";
import { unlistedSheet } from "../../machine/unlisted";
import { type Build, buildsOf, chartSheetsOf } from "./builds";
import { type Offsets, SPREADS } from "./nuisance";

const whole = DEMO_SHEETS[0] as Sheet;
const sharesOf = (builds: readonly Build[]): number => builds.reduce((sum, { share, size }) => sum + (size < 0 ? 0 : share), 0);

describe("builds", () => {
  test.each([...THREE_PHASE_SHEETS, ...OTHER_SHEETS].map((sheet) => [sheet.id, sheet] as const))(
    "of the %s, whose sheet says it all, are one, spread as printed figures are",
    (_id, sheet) => {
      const [build, ...more] = buildsOf(sheet);
      expect(more).toEqual([]);
      expect(build).toMatchObject({ share: 1, chart: 0, scale: { amps: 1, ohms: 1 } });
      // At which speed a wound generator begins no sheet says.
      const { field, agree, acPairs } = familyOf(sheet.family);
      const leads = leadsOf(sheet);
      // Windings that are not wound alike differ each for itself, and no sheet says which of them gives how much.
      const others = agree(leads).length === 0 && acPairs(leads).length > 1;
      // A wide band says less than a narrow one.
      const bands = (test: string) => sheet.bands.flatMap((band) => (band.test === test && band.low && band.high ? [[band.low, band.high] as const] : []));
      const ohms = bands(field?.test ?? "stator.resistance").map(([low, high]) => Math.log(high / low) / 5);
      const held = bands("charge.volts").map(([low, high]) => ((high - low) / 7) * (12 / sheet.systemVolts));
      expect(build?.spreads).toEqual({
        ...SPREADS,
        emf: Math.max(SPREADS.emf, ...bands("stator.acVolts").map(([low, high]) => Math.log(high / low) / 3.6)),
        ohms: Math.max(SPREADS.ohms, ...ohms),
        setVolts: Math.max(SPREADS.setVolts, ...held.slice(0, 1)),
        ...(field ? { emf: 0.15 } : {}),
        // Nor does every sheet say what the machine may draw with the key out.
        ...(sheet.bands.some((band) => band.test === "drain.current") ? {} : { draw: 1.5 }),
        ...(others ? { emfOther: 0.04, ohmsOther: 0.07, output: 0.3 } : {}),
        ...(field?.part === "rotor" ? { ohmsOther: SPREADS.ohms } : {}),
      });
    },
  );

  test.each(PARTIAL_SHEETS.map((sheet) => [sheet.id, sheet] as const))("of the %s, which prints little, are several", (_id, sheet) => {
    expect(buildsOf(sheet).length).toBeGreaterThan(1);
    expect(sharesOf(buildsOf(sheet))).toBeCloseTo(1);
  });

  test("know what the switches add only where the loads are printed", () => {
    const { loadAmps: _loads, ...unloaded } = sheetOf("ostrel-burro-520");
    expect(buildsOf(sheetOf("ostrel-burro-520")).map(({ spreads }) => spreads.switched)).toEqual([0]);
    expect(buildsOf(unloaded).every(({ spreads }) => spreads.switched > 0.5)).toBe(true);
  });

  test("of a sheet that prints the rotor's ohms and not the phases' leave the phases' open", () => {
    const whole = sheetOf("tidewright-farway-29");
    const partial = { ...whole, bands: whole.bands.filter(({ test: id }) => id !== "stator.resistance") };
    const [build, ...more] = buildsOf(partial);
    expect(more).toEqual([]);
    expect(build?.spreads.ohmsOther).toBeGreaterThan(4 * SPREADS.ohms);
    expect(build?.spreads.ohms).toBe(SPREADS.ohms);
  });

  test("of a sheet that prints a fence around many models, or a limit, spread as wide as it is, and about its middle", () => {
    const other = (test: string) => whole.bands.filter((band) => band.test !== test);
    const fenced = buildsOf({ ...whole, bands: [...other("stator.resistance"), { test: "stator.resistance", low: 0.1, high: 1 }] });
    expect(fenced[0]?.spreads.ohms).toBeGreaterThan(2 * SPREADS.ohms);
    const least = buildsOf({ ...whole, bands: [...other("stator.acVolts"), { test: "stator.acVolts", rpm: 5000, low: 50 }] });
    expect(least[0]?.spreads.emf).toBeGreaterThan(1.5 * SPREADS.emf);
    const none = buildsOf({ ...whole, bands: other("stator.acVolts") });
    expect(least[0]?.spreads.emf).toBeLessThan(0.6 * (none[0]?.spreads.emf ?? 0));
  });

  test("of a sheet that prints one of two unlike windings leave the other open", () => {
    const whole = sheetOf("corvane-tern-400");
    const bare = { ...whole, bands: whole.bands.filter(({ test: id, at }) => !id.startsWith("stator.") || at === "C-M") };
    expect(buildsOf(whole)[0]?.spreads.ohmsOther).toBeLessThan(0.1);
    expect(buildsOf(bare)[0]?.spreads.ohmsOther).toBeGreaterThan(0.3);
    expect(buildsOf(bare)[0]?.spreads.emfOther).toBeGreaterThan(0.1);
  });

  test("of an unlisted machine fill in every figure, and their shares are the whole", () => {
    for (const family of FAMILY_IDS) {
      for (const kind of [undefined, ...KIND_IDS]) {
        const sheet = unlistedSheet(family, 12, kind);
        const builds = buildsOf(sheet);
        expect(sharesOf(builds)).toBeCloseTo(1, 9);
        for (const build of builds) {
          expect(build.sheet.family).not.toBe("three-phase");
          expect([build.sheet.winding, build.sheet.sense]).toEqual([build.winding, build.sense]);
          expect(build.sheet.ratedAmps).toBeGreaterThan(familyOf(family).amps(kind)[0]);
          expect(build.sheet.battery.ah).toBeGreaterThan(3);
          expect(build.chart).toBeLessThan(chartSheetsOf(sheet).length);
          expect(build.spreads.emf).toBeGreaterThan(2 * SPREADS.emf);
        }
      }
    }
  });

  test("of a kind of unit nobody knows are shunt and series, each as wye and delta", () => {
    const builds = buildsOf(unlistedSheet("three-phase", 12));
    expect(new Set(builds.map(({ family, winding }) => `${family} ${winding}`)).size).toBe(4);
  });

  test("of kinds of machine that are tested at the same speeds share their charts", () => {
    const drawn = (...kinds: ("motorcycle" | "scooter" | "snowmobile" | undefined)[]) =>
      new Set(kinds.flatMap((kind) => chartSheetsOf(unlistedSheet("three-phase", 12, kind)).map((sheet) => atlasKey(sheet)))).size;
    expect(drawn("scooter", "snowmobile")).toBe(drawn("scooter"));
    expect(drawn("scooter", "motorcycle")).toBe(2 * drawn("scooter"));
  });

  test("that stand for half of all sizes let all that grows with one grow together; those of one size do not", () => {
    for (const family of ["three-phase", "single-phase-two-wire", "field-excited"]) {
      const builds = buildsOf(unlistedSheet(family, 12, "motorcycle"));
      for (const { size, spreads, along } of builds) {
        expect(spreads.rating > 0.1).toBe(size < 0);
        expect(along.rating !== undefined).toBe(size < 0);
      }
      const { along, spreads } = builds.find(({ size }) => size < 0) as Build;
      const growth = along.rating as Offsets;
      // More current, over thicker wires, into more loads and a larger battery, which grows by less than the machine does.
      expect(growth.henries).toBeLessThan(-0.9);
      expect([growth.wires, growth.loads]).toEqual([-1, 1]);
      expect((growth.capacity ?? 0) * spreads.rating).toBeLessThan(Math.log(24 / 5) / 3.29);
      expect(growth.capacity).toBeGreaterThan(0);
      // Ohms fall with the rating where copper carries it; a field's own do not.
      if (family === "three-phase") expect(growth.ohms).toBeCloseTo(-1.1, 1);
      if (family === "field-excited") expect(growth.ohms).toBeUndefined();
    }
  });

  test("of unloaded volts that nobody printed give the same current from more turns or from fewer", () => {
    for (const family of ["three-phase", "single-phase-two-wire", "single-phase-common"]) {
      for (const { along, spreads } of buildsOf(unlistedSheet(family, 12, "motorcycle"))) {
        const { emf, henries = 0 } = along.emf as Offsets;
        expect(emf).toBe(1);
        // Magnets stronger or weaker than they were made move the current, turns do not: of the whole width most is turns.
        expect(henries * spreads.emf).toBeLessThan(spreads.emf - 0.01);
        expect(henries).toBeGreaterThan(0.85);
      }
    }
    for (const sheet of [whole, unlistedSheet("field-excited", 12, "motorcycle")])
      expect(buildsOf(sheet).every(({ along }) => along.emf === undefined)).toBe(true);
  });

  test("of a sheet that prints the output grow with nothing", () => {
    const { loadAmps: _loads, ...partial } = whole;
    const builds = buildsOf(partial);
    expect(builds.some(({ size }) => size < 0)).toBe(true);
    expect(builds.every(({ spreads }) => spreads.rating === 0)).toBe(true);
  });

  test("leave open just what a partial sheet lacks", () => {
    const { ratedAmps: _amps, ...partial } = whole;
    const builds = buildsOf(partial);
    expect(new Set(builds.map(({ winding }) => winding)).size).toBe(1);
    expect(builds.every(({ spreads }) => spreads.emf === SPREADS.emf && spreads.henries > SPREADS.henries)).toBe(true);
    // A chart serves a larger machine at the larger current: that is how the scale is made.
    for (const { sheet, scale } of builds) {
      const [own, drawn] = [healthyState(sheet), healthyState(chartSheetsOf(partial)[0] as Sheet)];
      expect(scale.amps).toBeCloseTo((drawn.windings[0]?.henries ?? 0) / (own.windings[0]?.henries ?? 1), 9);
    }
  });
});
