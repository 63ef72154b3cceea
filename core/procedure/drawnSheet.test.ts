import { describe, expect, test } from "@jest/globals";
import { context, pairs, reading } from "../../tests/support/readings";
import { parseSheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import { drawnSheet } from "./drawnSheet";
import { judgeAll } from "./judge";
import type { Reading } from "./step";

const bare = { ...unlistedSheet("three-phase-shunt", 12), id: "own", maker: "Own", model: "Own" };
const drawn = (readings: Reading[], sheet = bare) => drawnSheet(sheet, judgeAll(readings, { ...context(), sheet }), "SK-121 “Dunlin”, 27 Nov 2026");

describe("a sheet drawn from a sound machine", () => {
  test("gives its figures the room that sisters need, and is a sheet that can be kept", () => {
    const sheet = drawn([
      ...pairs("stator.resistance", [0.5, 0.52, 0.5]),
      ...pairs("stator.acVolts", [60, 61, 60], { rpm: 5000 }),
      reading("charge.volts", 14.2, { rpm: 5000, loads: "normal" }),
      reading("drain.current", 0.4),
    ]);
    expect(sheet.bands).toEqual([
      { test: "stator.resistance", low: expect.closeTo(0.425, 2), high: expect.closeTo(0.598, 2) },
      { test: "stator.acVolts", rpm: 5000, low: 52.8, high: 68.3 },
      { test: "charge.volts", rpm: 5000, loads: "normal", low: 13.9, high: 14.5 },
      { test: "drain.current", high: 1.4 },
    ]);
    expect(parseSheet(sheet)).toMatchObject({ ok: true, sheet: { source: "drawn from SK-121 “Dunlin”, 27 Nov 2026" } });
  });

  test("windings that differ keep bands of their own", () => {
    const unlike = { ...unlistedSheet("single-phase-common", 12), id: "own", maker: "Own", model: "Own" };
    const [a, b, c] = ["C-M", "C-A", "M-A"];
    const sheet = drawn(
      [a, b, c].map((at, k) => reading("stator.resistance", [0.4, 1.2, 1.6][k] as number, { at })),
      unlike,
    );
    expect(sheet.bands.filter((band) => band.test === "stator.resistance").map((band) => band.at)).toEqual(expect.arrayContaining([a]));
    expect(sheet.bands.length).toBeGreaterThan(1);
  });

  test("what is out of its band, hot, at idle or of the battery is left out; what the maker printed stands", () => {
    expect(
      drawn([
        reading("stator.resistance", 0.5, { at: "1-2", hot: true }),
        reading("charge.volts", 13.1, { rpm: "idle", loads: "normal" }),
        reading("charge.volts", 17.5, { rpm: 5000, loads: "normal" }),
        reading("battery.crank", 10.9),
      ]).bands,
    ).toEqual([]);
    const printed = { ...bare, bands: [{ test: "charge.volts", rpm: 5000, low: 13.8, high: 14.9 }] };
    expect(drawn([reading("charge.volts", 14.2, { rpm: 5000, loads: "normal" })], printed).bands).toEqual(printed.bands);
  });
});
