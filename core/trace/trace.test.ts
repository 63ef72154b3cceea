import { describe, expect, test } from "@jest/globals";
import { traceOf } from "../../bench/trace/generator";
import { DEMO_SHEETS } from "../../demo/sheets";
import { conditionOf, stateOf } from "../machine/condition";
import { crankWave, firstPullVolts, startingOf } from "../machine/crank";
import type { SetFault } from "../machine/defects";
import type { Sheet } from "../machine/sheet";
import type { Trace } from "./bins";
import { readTrace } from "./read";

type Leg = readonly [seconds: number, volts: number, tau?: number];

/** A trace drawn leg by leg: each heads for its volts with its time constant. */
function drawn(legs: readonly Leg[], rate: number, shape: (t: number, volts: number) => number = (_t, volts) => volts): Trace {
  const [seconds, volts]: [number[], number[]] = [[], []];
  let [value, began] = [legs[0]?.[1] ?? 0, 0];
  for (const [length, to, tau = 0.03] of legs) {
    for (let k = 0; k < length * rate; k++) {
      value += (to - value) * (1 - Math.exp(-1 / rate / tau));
      const t = began + k / rate;
      seconds.push(t);
      volts.push(shape(t, value));
    }
    began += length;
  }
  return { seconds: Float64Array.from(seconds), volts: Float64Array.from(volts) };
}

const JOB: readonly Leg[] = [
  [6, 12.7],
  [8, 12.4],
  [2, 10.2],
  [8, 13.4, 0.3],
  [8, 14.3, 0.3],
  [6, 13.9],
  [6, 13.4, 0.3],
  [20, 12.8, 5],
];
const NAMES = ["rest", "key-on", "crank", "idle", "run", "loads", "idle", "off"];
/** Small noise that is the same at every run. */
const noise = (t: number, volts: number): number => volts + 0.004 * Math.sin(971 * t) + 0.003 * Math.cos(377 * t);

describe("a whole job in one trace", () => {
  test.each([20, 100, 1000])("at %i samples a second: every phase, and the figures a meter would have shown", (rate) => {
    const { phases, figures, samples, ratePerSecond } = readTrace(drawn(JOB, rate, noise));
    expect(phases.map(({ phase }) => phase)).toEqual(NAMES);
    let at = 0;
    phases.forEach(({ from }, k) => {
      expect(Math.abs(from - at)).toBeLessThanOrEqual(0.3);
      at += JOB[k]?.[0] ?? 0;
    });
    expect([samples, ratePerSecond]).toEqual([64 * rate, rate]);
    const value = (test: string): number[] => figures.filter((figure) => figure.test === test).map((figure) => figure.value);
    expect(value("battery.rest")[0]).toBeCloseTo(12.7, 1);
    expect(value("battery.settled")[0]).toBeCloseTo(12.4, 1);
    expect(value("battery.crank")[0]).toBeCloseTo(10.2, 1);
    expect(value("charge.volts").map((volts) => volts.toFixed(1))).toEqual(["13.4", "14.3", "13.9", "13.4"]);
    expect(figures.filter(({ test }) => test === "charge.volts").map(({ plateau }) => plateau)).toEqual([1, 2, 3, 4]);
    expect(value("battery.recovery")).toHaveLength(1);
  });

  test("a quick log shows what a battery is pulled to as the contact closes; one that averages, or is slow, does not", () => {
    const closing = (fall: number, rate: number): number[] => {
      const legs: Leg[] = [
        [6, 12.7],
        [0.06, 9.2, fall],
        [2, 10.2, 0.05],
        [4, 12.5, 0.3],
      ];
      return readTrace(drawn(legs, rate, noise)).figures.flatMap(({ test, value }) => (test === "battery.firstPull" ? [value] : []));
    };
    expect(closing(0.004, 500)).toEqual([expect.closeTo(9.2, 1)]);
    expect(closing(0.001, 100)).toEqual([expect.closeTo(9.2, 1)]);
    expect(closing(0.05, 500)).toEqual([]);
    expect(closing(0.001, 50)).toEqual([]);
  });

  test.each<[string, SetFault[]]>([
    ["sound", []],
    ["with a starter that drags", [{ fault: "starter.draws-too-much", severity: 1.8 }]],
    ["with a worn battery", [{ fault: "battery.sulphated", severity: 2.5 }]],
  ])("of a machine %s, cranked by its circuit, that is what its battery is pulled to by the windings alone", (_what, faults) => {
    const state = stateOf(DEMO_SHEETS[0] as Sheet, conditionOf(faults, { charge: 0.9 }), false);
    const wave = crankWave(state, 2);
    for (const rate of [200, 1000]) {
      const log = drawn(
        [
          [6, 12.6],
          [2, 9],
          [6, 12.5, 0.3],
        ],
        rate,
        (t, volts) => (t < 6 || t >= 8 ? volts : (wave.volts[Math.floor((t - 6) * 1000)] as number)),
      );
      const read = readTrace(log).figures.find(({ test }) => test === "battery.firstPull")?.value ?? 0;
      expect(Math.abs(read - firstPullVolts(startingOf(state)))).toBeLessThan(0.2);
    }
  });

  test("with red and black changed over it is read as the same, and that is said", () => {
    const right = readTrace(drawn(JOB, 50, noise));
    const turned = readTrace(drawn(JOB, 50, (t, volts) => -noise(t, volts)));
    expect(turned.phases).toEqual(right.phases);
    expect(turned.notes).toContain("red and black were changed over: every figure was turned");
  });

  test("single spikes and lifted probes change nothing", () => {
    const spoilt = drawn(JOB, 100, noise);
    for (let k = 130; k < spoilt.volts.length; k += 331) spoilt.volts[k] = k % 2 ? 0 : (spoilt.volts[k] as number) - 4;
    expect(readTrace(spoilt).phases.map(({ phase }) => phase)).toEqual(NAMES);
  });

  test("a handheld that shows nonsense two and three times running, first of all at its first figure, changes nothing", () => {
    const spoilt = drawn(JOB, 10, noise);
    for (const [k, volts] of [
      [0, 18.7],
      [91, 8.4],
      [92, 17.7],
      [93, 11],
      [180, 4],
      [181, 5],
      [420, 6.2],
    ] as const)
      spoilt.volts[k] = volts;
    expect(readTrace(spoilt).phases.map(({ phase }) => phase)).toEqual(NAMES);
  });

  test("half the volts on six", () => {
    const six = drawn(JOB, 50, (t, volts) => noise(t, volts) / 2);
    expect(readTrace(six, 6).phases.map(({ phase }) => phase)).toEqual(NAMES);
  });
});

describe("what a trace says beside its figures", () => {
  test("a gap stands as one, and bounds what is on either side", () => {
    const whole = drawn(JOB, 50, noise);
    const keep = whole.seconds.map((_, k) => k).filter((t) => (whole.seconds[t] as number) < 27 || (whole.seconds[t] as number) > 28.5);
    const { phases, notes } = readTrace({ seconds: keep.map((k) => whole.seconds[k] as number), volts: keep.map((k) => whole.volts[k] as number) });
    expect(phases.find(({ phase }) => phase === "gap")).toMatchObject({ from: expect.closeTo(27, 0), to: expect.closeTo(28.5, 0), volts: undefined });
    expect(notes.join()).toContain("1 gap without readings, 1.");
  });

  test("several cranks, each with its own lowest; a starter that only clicked is no start", () => {
    const { phases, figures, notes } = readTrace(
      drawn(
        [
          [5, 12.6],
          [4, 12.3],
          [2, 9.9],
          [5, 12.2],
          [2, 9.6],
          [6, 12.2],
          [6, 12.5],
        ],
        100,
        noise,
      ),
    );
    expect(phases.map(({ phase }) => phase).filter((phase) => phase === "crank")).toHaveLength(2);
    expect(phases.some(({ phase }) => phase === "run" || phase === "loads")).toBe(false);
    expect(figures.filter(({ test }) => test === "battery.crank").map(({ value }) => value.toFixed(1))).toEqual(["9.9", "9.6"]);
    expect(notes).toContain("2 cranks: each has its own lowest");
  });

  test("the first pull of a starter is told from what it turns at", () => {
    const pull = (t: number, volts: number): number => noise(t, volts) - (t >= 9 && t < 12 ? 3 * Math.exp(-(t - 9) / 0.06) : 0);
    const { figures, notes } = readTrace(
      drawn(
        [
          [5, 12.6],
          [4, 12.3],
          [3, 10.2],
          [8, 13.6, 0.3],
        ],
        500,
        pull,
      ),
    );
    const crank = figures.find(({ test }) => test === "battery.crank");
    expect(crank?.value).toBeLessThan(9.4);
    expect((crank?.value ?? 0) + (crank?.swing ?? 0)).toBeCloseTo(10.2, 1);
    expect(notes.some((note) => /^crank at 9\.\d s: lowest \d\.\d\d V at the first pull, 10\.\d\d V once it turned$/.test(note))).toBe(true);
  });

  test("volts that swing at one speed are said to pulse", () => {
    const pulsing = (t: number, volts: number): number => noise(t, volts) + (t > 25 && t < 31 ? 0.45 * Math.sin(5 * t) : 0);
    const { notes, figures } = readTrace(drawn(JOB, 100, pulsing));
    expect(notes.some((note) => note.startsWith("pulses by "))).toBe(true);
    expect(figures.filter(({ test }) => test === "charge.volts").map(({ swing = 0 }) => swing > 0.5)).toEqual([false, true, false, false]);
    expect(figures.find(({ test }) => test === "battery.crank")).not.toHaveProperty("swing");
  });

  test("a trace that only rests, and one that only runs", () => {
    expect(readTrace(drawn([[20, 12.6]], 20, noise)).phases.map(({ phase }) => phase)).toEqual(["rest"]);
    expect(readTrace(drawn([[20, 14.2]], 20, noise)).phases.map(({ phase }) => phase)).toEqual(["run"]);
    expect(() => readTrace({ seconds: new Float64Array(3), volts: new Float64Array(3) })).toThrow("at least five samples");
  });

  test.each([
    [
      "no key on before the crank",
      [
        [8, 12.6],
        [1.5, 10.4],
        [10, 13.4, 0.4],
        [8, 14.3, 0.3],
        [15, 12.9, 4],
      ],
      ["rest", "crank", "idle", "run", "off"],
    ],
    [
      "a lithium pack",
      [
        [8, 13.35],
        [3, 13.2],
        [1.2, 12.1],
        [10, 13.9, 0.4],
        [8, 14.3, 0.3],
        [15, 13.45, 4],
      ],
      ["rest", "key-on", "crank", "idle", "run", "off"],
    ],
    [
      "an engine that ran already",
      [
        [10, 13.6],
        [8, 14.3, 0.3],
        [8, 13.9],
        [8, 13.6, 0.3],
        [20, 12.8, 4],
      ],
      ["idle", "run", "loads", "idle", "off"],
    ],
    [
      "overcharged, it stays high for long",
      [
        [6, 12.6],
        [3, 12.3],
        [1.5, 10.2],
        [8, 14.2, 0.4],
        [8, 16.4, 0.6],
        [20, 13.3, 5],
      ],
      ["rest", "key-on", "crank", "idle", "run", "off"],
    ],
    [
      "two tries of a battery that is too weak",
      [
        [6, 12.3],
        [3, 11.8],
        [3, 7.5, 0.1],
        [4, 11.7, 0.6],
        [3, 7.2, 0.1],
        [6, 11.6, 0.6],
        [8, 12, 3],
      ],
      ["rest", "key-on", "crank", "key-on", "crank", "key-on"],
    ],
  ] as [string, Leg[], string[]][])("%s", (_what, legs, names) => {
    expect(readTrace(drawn(legs, 50, noise)).phases.map(({ phase }) => phase)).toEqual(names);
  });

  test("nothing but lifted probes is a gap, and no figure", () => {
    const { phases, figures } = readTrace(drawn([[10, 0]], 20));
    expect([phases.map(({ phase }) => phase), figures]).toEqual([["gap"], []]);
  });
});

describe("a regulator that hunts", () => {
  const LEGS: readonly Leg[] = [
    [5, 12.7],
    [2, 10.2],
    [8, 13.2, 0.3],
    [9, 14.4],
    [8, 14.1],
    [6, 13.2, 0.3],
    [15, 12.8, 5],
  ];

  test.each([0.45, 0.7, 1.1])("at %f Hz: its plateau ends where the load comes on, not with its last way down", (hertz) => {
    const hunts = (t: number, volts: number): number => noise(t, volts) + (t >= 15 && t < 24 ? 0.35 * Math.sin(2 * Math.PI * hertz * (t - 15)) : 0);
    const { phases } = readTrace(drawn(LEGS, 100, hunts));
    const loads = phases.find(({ phase }) => phase === "loads");
    expect(phases.map(({ phase }) => phase)).toEqual(["rest", "crank", "idle", "run", "loads", "idle", "off"]);
    expect(Math.abs((loads?.from ?? 0) - 24)).toBeLessThan(0.25);
  });

  test("revved a second time it is revved again, though it stands lower than before", () => {
    const twice = readTrace(drawn([...LEGS.slice(0, 6), [8, 14.25], [6, 13.2, 0.3], [15, 12.8, 5]], 50, noise));
    expect(twice.phases.map(({ phase }) => phase)).toEqual(["rest", "crank", "idle", "run", "loads", "idle", "run", "idle", "off"]);
  });
});

test("most phases of the benchmark's own traces are found", () => {
  let [right, all] = [0, 0];
  for (let seed = 70_000; seed < 70_040; seed++) {
    const made = traceOf(seed);
    const { phases } = readTrace(made, made.systemVolts);
    all += made.phases.length;
    right += made.phases.filter((drawn) => phases.some(({ phase, from }) => phase === drawn.phase && Math.abs(from - drawn.from) <= 0.3)).length;
  }
  expect(right / all).toBeGreaterThan(0.92);
});
