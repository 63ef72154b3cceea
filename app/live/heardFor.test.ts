import { describe, expect, test } from "@jest/globals";
import { testOf } from "../../core/procedure/catalogue";
import type { Instrument } from "../../store/instruments";
import { instrumentNamed } from "../../tests/support/instruments";
import { heardFor } from "./heardFor";

const called = (name: string, over: Partial<Instrument>): Instrument => ({ id: name.length, ...instrumentNamed(name, over) });
const BENCH = called("bench", {});
const PROBES = called("probes", { jack: "volts" });
const CLAMP = called("clamp", { jack: "clamp" });
const SERIES = called("series", { jack: "milliamps" });
const SECOND = called("second", { jack: "volts", secondMeter: true });
const ALL = [BENCH, PROBES, CLAMP, SERIES, SECOND];

describe("which of several meters a step is heard from", () => {
  test.each<[string, Parameters<typeof testOf>[0], Instrument, Instrument]>([
    ["volts from the chosen one on probes", "charge.volts", PROBES, PROBES],
    ["volts from the chosen one whose lead is moved by hand", "charge.volts", BENCH, BENCH],
    ["charging amps from the clamp", "charge.current", PROBES, CLAMP],
    ["charging amps from the clamp, however a bench meter's lead is moved", "charge.current", BENCH, CLAMP],
    ["a draw from the one that lies in series", "drain.current", PROBES, SERIES],
    ["a draw from the bench meter, its lead moved", "drain.current", BENCH, BENCH],
    ["volts never from the second meter in place of a clamp", "charge.volts", CLAMP, PROBES],
    ["volts from the second meter where it was chosen", "charge.volts", SECOND, SECOND],
  ])("%s", (_what, id, chosen, heard) => {
    expect(heardFor(testOf(id), chosen, ALL, false).name).toBe(heard.name);
  });

  test("what is wanted on the second meter from that, and from the chosen one where none speaks", () => {
    expect(heardFor(testOf("charge.volts"), PROBES, ALL, true)).toBe(SECOND);
    expect(heardFor(testOf("charge.volts"), PROBES, [PROBES, CLAMP], true)).toBe(PROBES);
  });

  test("the chosen one where no other is set up for the step: its lead is then said to sit wrong", () => {
    expect(heardFor(testOf("drain.current"), PROBES, [PROBES, SECOND], false)).toBe(PROBES);
  });
});
