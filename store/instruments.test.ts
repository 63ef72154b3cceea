import { describe, expect, test } from "@jest/globals";
import { instrumentNamed } from "../tests/support/instruments";
import { openStore } from "../tests/support/store";
import { instrumentSchema } from "./instruments";

const bench = instrumentNamed("Bench");

describe("instruments", () => {
  test("are kept, changed, taken off, and never too many", () => {
    const { instruments } = openStore();
    expect(instruments.add(bench)).toBe(true);
    const [instrument] = instruments.list();
    expect(instrument).toEqual({ ...bench, id: 1 });
    instruments.change({ ...bench, id: 1, port: 5026 });
    expect(instruments.find(1)?.port).toBe(5026);
    const second = { ...bench, id: 1, jack: "volts", leadOhms: 0.12, ohmsResolution: 0.01, secondMeter: true } as const;
    instruments.change(second);
    expect(instruments.find(1)).toEqual(second);
    instruments.remove(1);
    expect([instruments.list(), instruments.find(1)]).toEqual([[], undefined]);
    for (let k = 0; k < 20; k++) expect(instruments.add({ ...bench, name: `${k}` })).toBe(true);
    expect(instruments.add(bench)).toBe(false);
  });

  test.each([
    ["a jack that no meter has", { jack: "other" }],
    ["leads of a broken wire", { leadOhms: 7 }],
    ["a last digit of nothing", { ohmsResolution: 0 }],
    ["a figure that is none", { leadOhms: Number.NaN }],
  ])("%s is refused", (_what, over) => {
    expect(instrumentSchema.safeParse({ ...bench, ...over }).success).toBe(false);
  });

  test.each(["127.0.0.1", "localhost", "::1", "10.0.3.4", "192.168.1.9", "172.20.0.1", "meter-2.local", "meter"])(
    "%s is of the workshop's own network",
    (host) => {
      expect(instrumentSchema.safeParse({ ...bench, host }).success).toBe(true);
    },
  );

  test.each(["8.8.8.8", "example.org", "172.40.0.1", "http://127.0.0.1", "", "a b"])("%s is not", (host) => {
    expect(instrumentSchema.safeParse({ ...bench, host }).success).toBe(false);
  });
});
