import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { CATALOGUE, testOf } from "./catalogue";
import { MOVES, movesTo, placesFor, timeOf, WHEELED_IN, worked } from "./moves";
import type { Step } from "./step";

const ids = (step: Step, from = WHEELED_IN, wanted = {}): string[] => movesTo(step, wanted, from, 2).moves.map(({ id, what }) => (what ? `${id} ${what}` : id));
const stoodAfter = (...steps: Step[]) => steps.reduce((state, step) => movesTo(step, {}, state, 2).state, WHEELED_IN);

describe("moves to a reading", () => {
  test("of rest volts are no more than getting to the battery", () => {
    expect(ids({ test: "battery.rest" })).toEqual(["open battery", "dial"]);
  });

  test("part a plug while the engine stands still, and start it afterwards", () => {
    expect(ids({ test: "stator.acVolts", at: "1-2" })).toEqual(["open stator-plug", "part stator", "start", "dial"]);
    expect(ids({ test: "stator.acVolts", at: "1-2" }, stoodAfter({ test: "charge.volts" }))).toEqual([
      "open stator-plug",
      "stop",
      "part stator",
      "start",
      "dial",
    ]);
  });

  test("open a place once", () => {
    expect(ids({ test: "stator.toGround", at: "2" }, stoodAfter({ test: "stator.resistance", at: "1-2" }))).toEqual([]);
  });

  test("put the negative cable back before anything else is plugged, and take it off first", () => {
    const drained = stoodAfter({ test: "drain.current" });
    expect(ids({ test: "charge.volts" }, drained)).toEqual(["ammeter-out", "start", "dial"]);
    expect(ids({ test: "drain.unitUnplugged" }).filter((id) => !id.startsWith("open"))[0]).toBe("ammeter-in");
  });

  test("give a run battery its rest back, on the clock", () => {
    const { moves } = movesTo({ test: "battery.rest" }, {}, stoodAfter({ test: "charge.volts" }), 12);
    expect(moves.map(({ id }) => id)).toEqual(["stop", "rest", "dial"].filter((id) => id !== "dial"));
    expect(timeOf(moves).clock).toBe(720);
    expect(timeOf(moves).hands).toBeCloseTo(MOVES.stop.hands + MOVES.rest.hands, 9);
  });

  test("join no plug to look at it, and stop the engine for that", () => {
    const parted = stoodAfter({ test: "stator.resistance", at: "1-2" });
    expect(ids({ test: "inspect.connector", at: "stator" }, parted)).toEqual([]);
    expect(ids({ test: "inspect.connector", at: "stator" }, stoodAfter({ test: "stator.acVolts", at: "1-2" }))).toEqual(["stop"]);
    expect(ids({ test: "inspect.terminals" }, parted)).toEqual(["open battery", "join stator"]);
  });

  test("warm the engine with everything joined, and charge it with the engine off", () => {
    const parted = stoodAfter({ test: "stator.resistance", at: "1-2" });
    expect(ids({ test: "stator.resistance", at: "1-2" }, parted, { hot: true })).toEqual(["join stator", "start", "warm", "stop", "part stator"]);
    expect(ids({ test: "battery.crank" }, stoodAfter({ test: "charge.volts" }), { charged: true })).toEqual(["stop", "charge", "crank"]);
  });
});

describe("the state of the machine", () => {
  test("loses rest to key, crank and run, and that it has not run to a run alone", () => {
    expect(stoodAfter({ test: "inspect.terminals" }).rested).toBe(true);
    expect(stoodAfter({ test: "stator.resistance", at: "1-2" }).rested).toBe(true);
    expect(stoodAfter({ test: "battery.settled" })).toMatchObject({ rested: false, run: false });
    expect(stoodAfter({ test: "battery.crank" })).toMatchObject({ rested: false, run: false });
    expect(stoodAfter({ test: "charge.volts" })).toMatchObject({ rested: false, run: true, engine: "running" });
  });

  test("is always what the reading asks for, whatever came before", () => {
    const step = fc.constantFrom(...CATALOGUE).map((row): Step => ({ test: row.id }));
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
        const state = stoodAfter(...steps);
        const last = steps.at(-1) as Step;
        const { setUp, asItStands } = testOf(last.test);
        const parted = asItStands ? stoodAfter(...steps.slice(0, -1)).parted : setUp.unplug;
        expect([...state.parted].sort()).toEqual([...parted].sort());
        expect(state.engine).toBe(setUp.engine === "running" ? "running" : "stopped");
        for (const place of placesFor(last)) expect(state.open.has(place)).toBe(true);
      }),
      { numRuns: 200 },
    );
  });
});

test("a job's clock adds hands and waiting apart", () => {
  const { hands, waiting } = worked([{ test: "battery.rest" }, { test: "charge.volts" }, { test: "charge.volts" }], 2, WHEELED_IN);
  // The battery opened, two dials' worth of one, a start, and three readings of a minute.
  expect(hands).toBeCloseTo(1 + 0.1 + 1 + 3, 9);
  expect(waiting).toBe(0);
  expect(worked([{ test: "battery.crank", charged: true }], 2, WHEELED_IN).waiting).toBeGreaterThan(200);
  expect(worked([], 2, WHEELED_IN)).toMatchObject({ hands: 0, waiting: 0 });
});
