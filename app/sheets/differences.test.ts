import { describe, expect, test } from "@jest/globals";
import { sheetOf } from "../../tests/support/population";
import { differencesOf } from "./differences";

const burro = sheetOf("ostrel-burro-520");

describe("two versions of a sheet", () => {
  test("that are alike differ in nothing", () => {
    expect(differencesOf(burro, structuredClone(burro))).toEqual([]);
  });

  test("differ field by field, lines of a list told by what they are of", () => {
    const typed = {
      ...burro,
      testRpm: 5100,
      statorConnector: { ...burro.statorConnector, name: "C9" },
      fuses: burro.fuses.map((fuse) => ({ ...fuse, amps: 25 })),
    };
    expect(differencesOf(burro, typed)).toEqual(
      expect.arrayContaining([
        { field: "test rpm", stands: "5000", typed: "5100" },
        { field: "stator connector name", stands: burro.statorConnector.name, typed: "C9" },
        { field: "fuses main amps", stands: String(burro.fuses[0]?.amps), typed: "25" },
      ]),
    );
  });

  test("have their bands compared by test, wherever they stand in the list", () => {
    const turned = { ...burro, bands: burro.bands.toReversed() };
    expect(differencesOf(burro, turned)).toEqual([]);
    const typed = { ...burro, bands: burro.bands.map((band) => (band.test === "stator.resistance" ? { ...band, high: 0.5 } : band)) };
    expect(differencesOf(burro, typed)).toEqual([{ field: "bands Pair ohms high", stands: "0.27", typed: "0.5" }]);
  });

  test("differ in what one of them leaves out", () => {
    const { source: _source, ...typed } = burro;
    expect(differencesOf(burro, typed)).toEqual([{ field: "source", stands: burro.source, typed: "nothing" }]);
  });
});
