import { describe, expect, test } from "@jest/globals";
import { HandsFreeReading, type Wanted } from "./handsFree";
import { Settling } from "./settle";

const WANTED: Wanted = { dial: "V DC", openAllowed: false, keepLowest: false, zeroAllowed: false, leadOhms: 0.2, ohmsResolution: 0.1, probesWere: "nowhere" };

/** Feeds figures at twenty a second and gives what was kept, and when. */
function read(wanted: Partial<Wanted>, figures: readonly (number | "OL" | undefined)[]): { kept: number | "OL" | undefined; at: number; said: string[] } {
  const reading = new HandsFreeReading({ ...WANTED, ...wanted });
  const said: string[] = [];
  for (const [k, value] of figures.entries()) {
    const { keep, says } = reading.feed({ at: k / 20, value });
    if (said.at(-1) !== says) said.push(says);
    if (keep !== undefined) return { kept: keep, at: k / 20, said };
  }
  return { kept: undefined, at: 0, said };
}
const held = <T>(value: T, seconds: number): T[] => Array.from({ length: Math.round(seconds * 20) }, () => value);

describe("a figure read without a touch", () => {
  test("is kept once it stands, after probes that were off and a contact that bounced", () => {
    const bounce = [12.6, 0.05, 12.6, 0.02, 12.6];
    const { kept, at, said } = read({}, [...held(0.05, 1), ...bounce, ...held(12.6, 3)]);
    expect(kept).toBeCloseTo(12.6);
    expect(at).toBeLessThan(1 + 0.25 + 1.2);
    expect(said).toEqual(expect.arrayContaining(["lifted", "moving", "kept"]));
  });

  test("that creeps is kept where it stays, not on its way", () => {
    const creeps = Array.from({ length: 120 }, (_, k) => 12.6 - 0.9 * Math.exp(-k / 20 / 0.6));
    expect(read({}, creeps).kept).toBeCloseTo(12.6, 1);
  });

  test("is not kept while the meter looks for its range, nor over a pause of the meter", () => {
    expect(read({}, held(undefined, 4)).kept).toBeUndefined();
    const reading = new HandsFreeReading(WANTED);
    for (let k = 0; k < 10; k++) expect(reading.feed({ at: k / 20, value: 12.6 }).keep).toBeUndefined();
    // Away for two seconds: what stood before counts no more.
    expect(reading.feed({ at: 2.5, value: 12.6 }).keep).toBeUndefined();
  });

  test("of probes that are still on the points of the reading before is not kept for the next one, however long it stands", () => {
    const still = held(13.1, 4);
    expect(read({ probesWere: "elsewhere" }, still)).toMatchObject({ kept: undefined, said: ["elsewhere"] });
    expect(read({ probesWere: "elsewhere" }, [...still, ...held(0.04, 0.4), ...held(12.6, 2)]).kept).toBeCloseTo(12.6);
    expect(read({ dial: "Ω", probesWere: "elsewhere" }, [...held(0.5, 4), ...held(0.2, 0.5), ...held(0.7, 2)]).kept).toBeCloseTo(0.7);
    expect(read({ dial: "A DC", probesWere: "elsewhere" }, held(41, 3)).kept).toBeCloseTo(41);
  });

  test("beyond the range of volts is a meter that looks for another, not one whose probes are off", () => {
    expect(read({ probesWere: "here" }, [...held("OL" as const, 1), ...held(12.7, 4)])).toMatchObject({ kept: undefined, said: ["moving", "waiting"] });
  });

  test("on probes that stay where they were is kept only once it has moved", () => {
    expect(read({ probesWere: "here" }, held(13.1, 5))).toMatchObject({ kept: undefined, said: ["waiting"] });
    expect(read({ probesWere: "here" }, [...held(13.1, 2), ...held(14.2, 2)]).kept).toBeCloseTo(14.2);
  });
});

describe("an open line", () => {
  const ohms = { dial: "Ω", openAllowed: true } as const;

  test("is kept of probes that were seen to touch, after it has stood for a while", () => {
    const { kept, said } = read(ohms, [...held("OL" as const, 1), ...held(0.2, 1), ...held("OL" as const, 4)]);
    expect([kept, said]).toEqual(["OL", ["lifted", "tips", "lifted", "kept"]]);
  });

  test("is nothing but lifted probes where they were not, and where no open line is an answer", () => {
    expect(read(ohms, held("OL" as const, 10)).kept).toBeUndefined();
    expect(read({ dial: "Ω" }, [...held(0.2, 1), ...held("OL" as const, 10)]).kept).toBeUndefined();
  });

  test("tips together are no reading, on ohms or on the diode dial", () => {
    expect(read(ohms, held(0.2, 5))).toMatchObject({ kept: undefined, said: ["tips"] });
    expect(read({ dial: "diode", openAllowed: true }, held(0.001, 5))).toMatchObject({ kept: undefined, said: ["tips"] });
    expect(read(ohms, held(0.6, 2)).kept).toBeCloseTo(0.6);
  });
});

test("where a sound part shows the open line, leads that show a little more than when they were zeroed are offered and not kept", () => {
  const toCase = { dial: "Ω", openAllowed: true, openWhenSound: true, ohmsResolution: 0.01 } as const;
  for (const tips of [0.15, 0.2, 0.27]) {
    expect(read(toCase, held(tips, 5))).toMatchObject({ kept: undefined, said: ["tips"] });
    expect(read(toCase, [...held("OL" as const, 1), ...held(tips, 1), ...held("OL" as const, 4)]).kept).toBe("OL");
  }
  const reading = new HandsFreeReading({ ...WANTED, ...toCase });
  expect(
    held(0.27, 5)
      .map((value, k) => reading.feed({ at: k / 20, value }))
      .at(-1),
  ).toEqual({ says: "tips", offer: 0.27 });
  expect(read(toCase, held(0.45, 3)).kept).toBeCloseTo(0.45);
  // Windings are of few ohms themselves: there a figure near the leads' own is one.
  expect(read({ ...toCase, openWhenSound: false }, held(0.27, 3)).kept).toBeCloseTo(0.27);
});

describe("a drop along a conductor", () => {
  const drop = { drop: "running", zeroAllowed: true, probesWere: "elsewhere" } as const;
  const knock = [...held(0.03, 0.4), ...held(13.9, 0.8), ...held(0.05, 0.5)];

  test("is kept, however small, of probes that were seen on something live", () => {
    expect(read(drop, [...held(13.9, 1), ...knock, ...held(0.08, 3)])).toMatchObject({ kept: 0.08 });
    expect(read(drop, [...knock, ...held(0, 3)]).kept).toBe(0);
    expect(read(drop, [...knock, ...held(-0.03, 3)]).kept).toBe(-0.03);
    expect(read(drop, [...knock, ...held(1.7, 2)]).kept).toBeCloseTo(1.7);
  });

  test("that is next to nothing is offered, not kept, where they were not; leads that wander are off", () => {
    const { kept, said } = read(drop, [...held(13.9, 1), ...held(0.02, 6)]);
    expect([kept, said.at(-1)]).toEqual([undefined, "unproved"]);
    const reading = new HandsFreeReading({ ...WANTED, ...drop });
    const last = held(0.02, 4)
      .map((value, k) => reading.feed({ at: k / 20, value }))
      .at(-1);
    expect(last).toEqual({ says: "unproved", offer: 0.02 });
    const wanders = Array.from({ length: 200 }, (_, k) => Math.abs(0.12 * Math.sin(k / 10)));
    expect(read(drop, [...knock, ...wanders])).toMatchObject({ kept: undefined, said: ["lifted", "live", "lifted"] });
    expect(read({ zeroAllowed: false }, held(0.02, 6))).toMatchObject({ kept: undefined, said: ["lifted"] });
  });

  test("is not the live touch itself, slipped off and set again or held for long: that is offered", () => {
    const slips = [...held(0.03, 0.4), ...held(13.9, 0.8), ...held(0.05, 0.4), ...held(13.8, 2)];
    expect(read(drop, slips)).toMatchObject({ kept: undefined, said: ["lifted", "live", "lifted", "live"] });
    const reading = new HandsFreeReading({ ...WANTED, ...drop });
    expect([...held(0.03, 0.4), ...held(13.9, 4)].map((value, k) => reading.feed({ at: k / 20, value })).at(-1)).toEqual({ says: "live", offer: 13.9 });
  });

  test("under the starter is kept once that is let go, not before its contact closes", () => {
    const cranking = { ...drop, drop: "cranking" } as const;
    expect(read(cranking, [...held(12.5, 3), ...held(0.19, 3), ...held(12.3, 3)]).kept).toBeCloseTo(0.19);
    expect(read(cranking, [...held(0, 3), ...held(0.9, 3), ...held(0, 3)]).kept).toBeCloseTo(0.9);
    expect(read(cranking, [...held(0.01, 3), ...held(0.06, 3), ...held(0, 3)]).kept).toBeCloseTo(0.06);
    expect(read(cranking, held(12.5, 9))).toMatchObject({ kept: undefined, said: ["moving", "cranks"] });
    expect(read(cranking, [...held(0, 9), ...held(0.3, 4)]).kept).toBeUndefined();
    // Off the post first, then on it: what stood off it is no drop.
    expect(read(cranking, [...held(0.1, 3), ...held(12.5, 3), ...held(0.1, 0.4), ...held(12.5, 3)]).kept).toBeUndefined();
  });
});

describe("a dip", () => {
  test("keeps its lowest once the starter has let go", () => {
    const dip = [...held(12.6, 2), 9.4, 9.9, 10.2, ...held(10.3, 1.5), ...held(12.4, 1)];
    expect(read({ keepLowest: true }, dip)).toMatchObject({ kept: 9.4, said: ["waiting", "dipping", "kept"] });
  });

  test("that was caught whole tells its first pull from what the engine turned at; one that was hardly seen does not", () => {
    const dip = (pull: number[]): number[] => [...held(12.6, 2), ...pull, ...held(10.3, 1.5), ...held(12.4, 1)];
    const kept = (figures: number[]) => {
      const reading = new HandsFreeReading({ ...WANTED, keepLowest: true });
      return figures.map((value, k) => reading.feed({ at: k / 20, value })).find(({ keep }) => keep !== undefined);
    };
    expect(kept(dip([8.8, 8.1, 8.9, 9.6, 10]))).toMatchObject({ says: "kept", keep: 8.1, pull: 2.2 });
    expect(kept(dip([10.3]))).not.toHaveProperty("pull");
    const slow = new HandsFreeReading({ ...WANTED, keepLowest: true });
    const shown = [...held(12.6, 2), ...held(8.1, 0.2), ...held(10.3, 1.8), ...held(12.4, 1)].filter((_, k) => k % 4 === 0);
    const heard = shown.map((value, k) => slow.feed({ at: k / 5, value })).find(({ keep }) => keep !== undefined);
    expect(heard?.keep).toBe(8.1);
    expect(heard).not.toHaveProperty("pull");
  });

  test("comes with its curve, from a second before it to when its volts were back", () => {
    const reading = new HandsFreeReading({ ...WANTED, keepLowest: true });
    const figures = [...held(12.6, 5), 8.8, 8.1, 9.6, ...held(10.3, 1.5), ...held(12.4, 1)];
    const { curve } = figures.map((value, k) => reading.feed({ at: 100 + k / 20, value })).find(({ keep }) => keep !== undefined) ?? {};
    expect(curve?.seconds[0]).toBe(0);
    expect(curve?.volts.slice(0, 23)).toEqual([...held(12.6, 1), 8.8, 8.1, 9.6]);
    expect(curve?.seconds).toHaveLength(curve?.volts.length ?? 0);
    expect(curve?.from).toBeCloseTo(1);
    expect(curve?.to).toBeCloseTo(1 + 3 / 20 + 1.5);
    expect(curve?.seconds.at(-1)).toBeGreaterThan(curve?.to ?? 99);
  });

  test("is waited for, however long it takes, and given up with its lowest where it never comes back", () => {
    expect(read({ keepLowest: true }, held(12.6, 30)).kept).toBeUndefined();
    expect(read({ keepLowest: true }, [...held(12.6, 2), ...held(8.1, 10)]).kept).toBeCloseTo(8.1);
  });
});

test("a coarse display that flickers by its last digit stands", () => {
  const settling = new Settling("Ω", 0.1);
  const states = Array.from({ length: 30 }, (_, k) => settling.feed({ at: k / 20, value: k % 3 ? 0.4 : 0.5 }).state);
  expect(states.at(-1)).toBe("settled");
});
