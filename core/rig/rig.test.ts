import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { DEMO_SHEETS, demoSheet } from "../../demo/sheets";
import { conditionOf } from "../machine/condition";
import { DEFECTS, type SetFault } from "../machine/defects";
import { FAULTS, type FaultId } from "../machine/faults";
import { placesOf, unfitReason } from "../machine/places";
import { pointsAlong } from "../machine/points";
import type { Sheet } from "../machine/sheet";
import { CONNECTORS } from "../machine/standing";
import { simulateStep } from "../procedure/simulate";
import { changeAt, comparable } from "./changed";
import { LiveRun, SHOWN_CYCLES } from "./run";
import { faultFromText, faultText, firstSetup, fromParams, MOST_CHANNELS, RIG_DIALS, type RigSetup, toParams } from "./setup";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const METER = { name: "m", leadOhms: 0.2, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.5 };
const first = firstSetup(sheet);

/** Sets a machine up and lets it run for so long. */
function run(over: Partial<RigSetup>, seconds = 0.6, machine = sheet) {
  const live = new LiveRun(machine, METER);
  const setup = { ...firstSetup(machine), ...over };
  live.set(setup, conditionOf(setup.faults, { charge: setup.charge }));
  let frame = live.frame(0.03);
  for (let time = 0; time < seconds; time += 0.03) frame = live.frame(0.03);
  return { live, frame };
}

const faultFrom = fc.constantFrom(...FAULTS.map((fault) => fault.id as FaultId).filter((id) => !unfitReason(id, sheet))).chain((fault) =>
  fc.record({ pick: fc.nat(), share: fc.integer({ min: 0, max: 10 }) }).map(({ pick, share }): SetFault => {
    const places = placesOf(fault, sheet);
    const { severity, along } = DEFECTS[fault];
    return {
      fault,
      ...(places.length > 0 ? { at: places[pick % places.length] } : {}),
      severity: Math.min(severity.high, severity.low + ((severity.high - severity.low) * share) / 10),
      ...(along ? { along: share / 10 } : {}),
    };
  }),
);

describe("a set-up in an address", () => {
  test("comes back as it went, whatever is set", () => {
    const points = pointsAlong(sheet);
    fc.assert(
      fc.property(
        fc.record({
          faults: fc.array(faultFrom, { maxLength: 4 }),
          engine: fc.constantFrom("off" as const, "cranking" as const, "running" as const),
          key: fc.constantFrom("out" as const, "on" as const),
          rpm: fc.integer({ min: 300, max: 9000 }),
          loads: fc.constantFrom("off" as const, "normal" as const, "all" as const),
          unplug: fc.subarray([...CONNECTORS]),
          pulled: fc.subarray(sheet.fuses.map((fuse) => fuse.id)),
          field: fc.constant("regulated" as const),
          dial: fc.constantFrom(...RIG_DIALS),
          red: fc.constantFrom(...points),
          black: fc.constantFrom(...points),
          channels: fc.subarray(["unitLeg:1", "B+", "leg:1,leg:2", "@battery"]),
          ambientC: fc.integer({ min: -40, max: 60 }),
          charge: fc.integer({ min: 0, max: 20 }).map((share) => share / 20),
        }),
        (setup) => {
          const address = new URLSearchParams(toParams(setup, sheet).toString());
          expect(fromParams(address, sheet)).toEqual({ setup, problems: [] });
        },
      ),
    );
  });

  test("the first set-up needs no more than the machine's name", () => {
    expect(toParams(first, sheet).toString()).toBe("sheet=corvane-ferrel-650");
  });

  test("what is wrong is left as at first and told", () => {
    const { setup, problems } = fromParams(new URLSearchParams("rpm=fast&dial=ohms&red=nose&unplug=stator+tail&fault=rotor.weak,severity=9&charge="), sheet);
    expect(setup).toEqual({ ...first, unplug: ["stator"] });
    expect(problems.map(({ field }) => field).sort()).toEqual(["charge", "dial", "faults.0.severity", "red", "rpm", "unplug"]);
    expect(fromParams(new URLSearchParams({ scope: "a b c d e f" }), sheet).setup.channels).toHaveLength(MOST_CHANNELS);
  });

  test("a fault as text", () => {
    const set: SetFault = { fault: "regulator.diode-leaky", at: "1>B+", severity: 60 };
    expect(faultText(set)).toBe("regulator.diode-leaky,at=1>B+,severity=60");
    expect(faultFromText(faultText(set))).toEqual(set);
    const turns: SetFault = { fault: "stator.turns-shorted", at: "2", severity: 0.3, coupling: 0.15 };
    expect(faultText(turns)).toBe("stator.turns-shorted,at=2,severity=0.3,coupling=0.15");
    expect(faultFromText(faultText({ ...turns, at: undefined }))).toEqual({ fault: turns.fault, severity: 0.3, coupling: 0.15 });
  });
});

describe("a live machine", () => {
  test("settles to what the same test reads", () => {
    const { frame } = run({ rpm: 5000, charge: 0.95 });
    const { value } = simulateStep(sheet, conditionOf(), { test: "charge.volts", rpm: 5000, loads: "normal" }, METER);
    expect(frame.display.value).toBeCloseTo(value as number, 1);
  });

  test("shows whole cycles of every channel, the same length each", () => {
    const { frame } = run({ rpm: 3000 }, 0.1);
    expect(frame.channels).toHaveLength(first.channels.length);
    const [channel] = frame.channels as [Float32Array];
    expect(channel.length * frame.step).toBeCloseTo(SHOWN_CYCLES / ((3000 * 9) / 60), 6);
    expect(frame.channels.every((track) => track.length === channel.length && track.every(Number.isFinite))).toBe(true);
  });

  test("goes on from where it is when the throttle moves, and rests when it is stopped", () => {
    const { live } = run({ rpm: 1200 });
    live.set({ ...first, rpm: 6000 }, conditionOf());
    const revved = live.frame(0.3).display.value as number;
    expect(revved).toBeGreaterThan(13.5);
    live.set({ ...first, engine: "off", key: "out" }, conditionOf());
    const stopped = live.frame(0.03);
    expect(stopped.display.value).toBeLessThan(13);
    expect(stopped.step).toBe(0);
  });

  test("ohms on a running engine mean nothing, and it says so", () => {
    const { frame } = run({ dial: "Ω" }, 0.05);
    expect(frame.display).toMatchObject({ value: "OL", notes: [expect.stringMatching(/stop the engine/)] });
  });

  test("a fuse that melted stays so until new ones are fitted", () => {
    const faults: SetFault[] = [{ fault: "regulator.diode-shorted", at: "1>B+" }];
    const { live, frame } = run({ rpm: 5000, faults });
    expect(frame.melted).toEqual(["fuse:main"]);
    live.set({ ...first, rpm: 5000 }, conditionOf());
    expect(live.frame(0.03).melted).toEqual(["fuse:main"]);
    live.set({ ...first, rpm: 5000 }, conditionOf(), true);
    expect(live.frame(0.03).melted).toEqual([]);
  });
});

describe("generators with a field", () => {
  const { wakes: _, ...launch } = demoSheet("tidewright-farway-29") as Sheet;
  const parade = demoSheet("corvane-merle-250") as Sheet;

  test("a field fed in full climbs past the set point, and travels in the address", () => {
    const setup: RigSetup = { ...firstSetup(launch), rpm: 3000, field: "full" };
    expect(fromParams(toParams(setup, launch), launch)).toEqual({ setup, problems: [] });
    const volts = (field: RigSetup["field"]): number => Number(run({ rpm: 3000, field }, 1.2, launch).frame.display.value);
    expect(volts("regulated")).toBeCloseTo(14.15, 1);
    expect(volts("full")).toBeGreaterThan(14.9);
  });

  test("one that wakes late is asleep at idle, says what wakes it, wakes a while after it was revved, and is asleep again once stopped", () => {
    const late: Sheet = { ...launch, wakes: { aboveRpm: 1400, afterSeconds: 1 } };
    const live = new LiveRun(late, METER);
    const shows = (over: Partial<RigSetup>, seconds: number) => {
      live.set({ ...firstSetup(late), ...over }, conditionOf([], { charge: 0.9 }));
      return live.frame(seconds).display;
    };
    expect(shows({}, 1.2)).toMatchObject({ notes: ["It wakes late: rev it past 1,400 rpm once, then count 1 s before you read."] });
    expect(Number(shows({}, 0.5).value)).toBeLessThan(13);
    expect(Number(shows({ rpm: 3000 }, 0.5).value)).toBeLessThan(13);
    expect(Number(shows({ rpm: 3000 }, 2).value)).toBeGreaterThan(13.7);
    expect(Number(shows({}, 1).value)).toBeGreaterThan(13.2);
    shows({ engine: "off", key: "out" }, 0.1);
    expect(Number(shows({ rpm: 850 }, 0.5).value)).toBeLessThan(13);
  });

  test("a machine without a field has none to feed: the address is told so", () => {
    const { setup, problems } = fromParams(new URLSearchParams({ field: "full" }), sheet);
    expect(setup.field).toBe("regulated");
    expect(problems).toEqual([{ field: "field", error: "“full” must be one of regulated" }]);
  });

  test("on positive earth red stands on the earthed plus post first, and the meter shows a plus; the other way round a minus", () => {
    const first = firstSetup(parade);
    expect([first.red, first.black]).toEqual(["battery-", "battery+"]);
    expect(Number(run({ rpm: 2500 }, 1.2, parade).frame.display.value)).toBeCloseTo(7.1, 1);
    expect(Number(run({ rpm: 2500, red: "battery+", black: "battery-" }, 1.2, parade).frame.display.value)).toBeCloseTo(-7.1, 1);
    expect(Number(run({ engine: "off", key: "out" }, 0.1, parade).frame.display.value)).toBeGreaterThan(6);
  });
});

describe("what changed", () => {
  test("nothing on a sound machine; on an ailing one what a mechanic would find", () => {
    const steps = comparable(sheet).filter(({ test: id }) => id === "regulator.diode" || id === "drain.current");
    const changes = (faults: SetFault[]) => steps.map((step) => changeAt(step, sheet, conditionOf(faults), METER)).filter((change) => change !== undefined);
    expect(changes([])).toEqual([]);
    const found = changes([{ fault: "regulator.diode-open", at: "2>B+" }]);
    expect(found.map(({ step }) => step.at)).toEqual(["2>B+"]);
    expect(found[0]).toMatchObject({ ailing: "OL", size: 2 });
  });

  test("every machine of the shelf has something to compare", () => {
    for (const sheet of DEMO_SHEETS) expect(comparable(sheet).length).toBeGreaterThan(sheet.legs.length > 2 ? 40 : 30);
  });
});
