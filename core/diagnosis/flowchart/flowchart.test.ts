import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { ac, charging, context, crank, diodes, pairs, reading, rest, toCase } from "../../../tests/support/readings";
import { PARTS } from "../../machine/part";
import type { Reading } from "../../procedure/step";
import { conclude } from "./flowchart";

const its = context();
const say = (readings: Reading[], where = its) => conclude(readings, where);
const provedBattery = () => [rest(12.85), crank(10.8)];
const notCharging = () => charging(12.5, 12.4, 12);
const goodPairs = () => pairs("stator.resistance", [0.3, 0.3, 0.3]);
const goodStator = () => [...goodPairs(), ...toCase(["OL", "OL", "OL"]), ...ac([60, 60, 61])];
const goodFeedAndGround = () => [reading("regulator.feed", 12.6), reading("regulator.ground", 0.05)];
const drops = (output: number, positive: number, ground: number) => [
  reading("charge.outputVolts", output, { rpm: 5000, loads: "normal" }),
  reading("charge.positiveDrop", positive, { rpm: 5000, loads: "normal" }),
  reading("charge.groundDrop", ground, { rpm: 5000, loads: "normal" }),
];

describe("one part failed", () => {
  const cases: [string, Reading[], { fault: string; where?: RegExp }][] = [
    ["a battery that rests well and fails the load test", [rest(12.8), crank(8.9), reading("battery.load", 8.8)], { fault: "battery.sulphated" }],
    ["a battery a whole cell down", [rest(10.6), crank(7.2)], { fault: "battery.shorted-cell" }],
    ["volts lost in the starter cable", [rest(12.8), crank(8.9), reading("starter.cableDrop", 1.4)], { fault: "starter.draws-too-much" }],
    [
      "a winding on the case",
      [...provedBattery(), ...notCharging(), ...goodPairs(), ...toCase([0.4, 0.52, 0.52])],
      { fault: "stator.winding-grounded", where: /leg 1/ },
    ],
    [
      "an open wye winding",
      [...provedBattery(), ...notCharging(), ...pairs("stator.resistance", ["OL", "OL", 0.3])],
      { fault: "stator.winding-open", where: /leg 2/ },
    ],
    [
      "shorted turns on one leg",
      [...provedBattery(), ...notCharging(), ...pairs("stator.resistance", [0.2, 0.31, 0.2])],
      { fault: "stator.turns-shorted", where: /leg 1/ },
    ],
    [
      "a leg that makes less AC",
      [...provedBattery(), ...notCharging(), ...goodPairs(), ...ac([60, 35, 34])],
      { fault: "stator.turns-shorted", where: /leg 3/ },
    ],
    ["a leg that makes no AC", [...provedBattery(), ...notCharging(), ...ac([60, 0.4, 0.3])], { fault: "stator.winding-open", where: /leg 3/ }],
    ["weak magnets", [...provedBattery(), ...notCharging(), ...goodPairs(), ...ac([40, 40, 41])], { fault: "rotor.weak" }],
    [
      "an open diode",
      [...provedBattery(), ...notCharging(), ...goodStator(), ...diodes({ "2>B+": "OL" })],
      { fault: "regulator.diode-open", where: /leg 2, output side/ },
    ],
    [
      "a shorted lower switch",
      [...provedBattery(), ...notCharging(), ...goodStator(), ...diodes({ "3>B-": 0.01, "B->3": 0.01 })],
      { fault: "regulator.diode-shorted", where: /^leg 3, ground side$/ },
    ],
    [
      "a unit that makes nothing",
      [...provedBattery(), ...notCharging(), ...goodStator(), ...diodes(), ...goodFeedAndGround()],
      { fault: "regulator.no-output" },
    ],
    ["overcharge with a good ground", [...provedBattery(), ...charging(14.4, 16.8, 16.2), reading("regulator.ground", 0.05)], { fault: "regulator.set-high" }],
    [
      "a drain that goes with the unit",
      [...provedBattery(), ...charging(13.9, 14.4, 14.2), reading("drain.current", 40), reading("drain.unitUnplugged", 0.3)],
      { fault: "regulator.diode-leaky" },
    ],
    [
      "a drain on one fuse",
      [
        ...provedBattery(),
        ...charging(13.9, 14.4, 14.2),
        reading("drain.current", 80),
        reading("drain.unitUnplugged", 80),
        reading("drain.fusePulled", 0.3, { at: "F3" }),
      ],
      { fault: "loads.parasitic", where: /fuse F3, clock/ },
    ],
    [
      "no feed at the unit",
      [...provedBattery(), ...notCharging(), ...goodStator(), reading("regulator.feed", 0.1), reading("fuse.continuity", "OL", { at: "main" })],
      { fault: "wiring.feed-open", where: /fuse main/ },
    ],
    ["a poor ground", [...provedBattery(), ...charging(13.8, 15.6, 15.2), reading("regulator.ground", 3.4)], { fault: "wiring.ground-resistance" }],
    [
      "volts lost on the way out",
      [...provedBattery(), ...charging(12.6, 12.9, 12.6), ...goodStator(), ...goodFeedAndGround(), ...drops(14.4, 1.5, 0.02)],
      { fault: "wiring.output-resistance" },
    ],
    [
      "AC lost in the cable",
      [...provedBattery(), ...notCharging(), ...goodStator(), ...pairs("stator.acVoltsAtUnit", [60, 2, 2], { rpm: 5000 })],
      { fault: "wiring.leg-burnt", where: /2-3, 3-1/ },
    ],
  ];

  test.each(cases)("%s", (_what, readings, expected) => {
    const verdict = say(readings);
    expect(verdict.status).toBe("found");
    expect(verdict.fault).toBe(expected.fault);
    expect(verdict.part).toBe(expected.fault.split(".")[0]);
    if (expected.where) expect(verdict.where).toMatch(expected.where);
    expect(verdict.why[0]?.because.length).toBeGreaterThan(0);
    expect(verdict.wouldChange).toMatch(/\w/);
    expect(verdict.standing.find((one) => one.part === verdict.part)?.mark).toBe("condemned");
    expect(verdict.ruledOut.map((one) => one.part)).not.toContain(verdict.part);
  });

  test("a delta winding that is open reads one pair at twice the others", () => {
    const corrie = context("brannoch-corrie-600");
    const verdict = say([...provedBattery(), ...pairs("stator.resistance", [1.2, 0.6, 0.6])], corrie);
    expect(verdict).toMatchObject({ fault: "stator.winding-open", where: "winding 1-2" });
  });

  test("is found whatever the order of the readings", () => {
    for (const [, readings, { fault }] of cases) {
      fc.assert(
        fc.property(fc.shuffledSubarray(readings, { minLength: readings.length }), (shuffled) => {
          expect(say(shuffled).fault).toBe(fault);
        }),
        { numRuns: 5 },
      );
    }
  });
});

describe("not enough, or nothing", () => {
  test("without readings it says what to do first", () => {
    const verdict = say([]);
    expect(verdict.status).toBe("not-enough");
    expect(verdict.headline).toMatch(/prove the battery/);
    expect(verdict.standing.every((one) => one.mark === "unseen")).toBe(true);
  });

  test("a flat battery is a symptom: charge it first", () => {
    const verdict = say([rest(11.6)]);
    expect(verdict).toMatchObject({ status: "narrowed", fault: "battery.discharged" });
    expect(verdict.why[0]?.says).toMatch(/Charge it fully/);
  });

  test("the unit is not condemned before its feed and ground are proved", () => {
    const verdict = say([...provedBattery(), ...notCharging(), ...goodStator(), ...diodes()]);
    expect(verdict.status).toBe("not-enough");
    expect(verdict.standing.find((one) => one.part === "regulator")?.mark).toBe("suspect");
  });

  test("a known-good unit that changes nothing clears the old one", () => {
    const verdict = say([...provedBattery(), ...notCharging(), ...goodStator(), ...diodes(), ...goodFeedAndGround(), reading("swap.unit", "same")]);
    expect(verdict.fault).not.toBe("regulator.no-output");
  });

  test("battery proved, charging in band, no drain: nothing failed", () => {
    const verdict = say([...provedBattery(), ...charging(13.9, 14.4, 14.2), reading("drain.current", 0.4)]);
    expect(verdict).toMatchObject({ status: "healthy", part: "none" });
    expect(verdict.ruledOut.map((one) => one.part)).toEqual(expect.arrayContaining(["battery", "regulator", "wiring", "loads"]));
  });

  test("readings after the repair do not change what was found", () => {
    const before = [...provedBattery(), ...notCharging(), ...goodPairs(), ...toCase([0.4, 0.52, 0.52])];
    expect(say([...before, ...charging(13.9, 14.4, 14.2, { afterRepair: true })]).fault).toBe(say(before).fault);
  });
});

describe("what eyes and fingers find", () => {
  test.each([
    ["a loose post", reading("inspect.terminals", "loose"), "wiring.terminals"],
    ["a broken ground strap", reading("inspect.ground", "broken"), "wiring.terminals"],
    ["a melted stator plug", reading("inspect.connector", "melted", { at: "stator" }), "wiring.leg-burnt"],
    ["a melted output plug", reading("inspect.connector", "melted", { at: "output" }), "wiring.output-resistance"],
  ])("%s points at the wiring, but settles nothing", (_what, seen, fault) => {
    const verdict = say([...provedBattery(), ...notCharging(), seen]);
    expect(verdict).toMatchObject({ status: "narrowed", part: "wiring", fault });
    expect(verdict.headline).toMatch(/^Most likely: Wiring/);
  });

  test("a green plug only raises the question", () => {
    const verdict = say([...provedBattery(), ...notCharging(), reading("inspect.connector", "green", { at: "stator" })]);
    expect(verdict.status).toBe("not-enough");
    expect(verdict.standing.find((one) => one.part === "wiring")?.mark).toBe("suspect");
  });

  test("a settled fault comes before what merely points elsewhere, which is still told", () => {
    const verdict = say([...provedBattery(), ...notCharging(), reading("inspect.terminals", "corroded"), ...goodPairs(), ...toCase([0.4, 0.52, 0.52])]);
    expect(verdict.part).toBe("stator");
    expect(verdict.also.map((one) => one.fault)).toContain("wiring.terminals");
  });
});

describe("readings that cannot both be true", () => {
  test("a pair reads open and yet makes its AC", () => {
    const verdict = say([...provedBattery(), ...pairs("stator.resistance", ["OL", 0.3, 0.3]), ...ac([60, 60, 60])]);
    expect(verdict.status).toBe("contradiction");
    expect(verdict.wouldChange).toMatch(/Take the open pair again/);
  });

  test("it charges and yet no pair makes AC", () => {
    expect(say([...provedBattery(), ...charging(13.9, 14.4, 14.2), ...ac([2, 2, 2])]).status).toBe("contradiction");
  });
});

test("two faults: the one that feeds the other is named first, the other is told too", () => {
  const verdict = say([...provedBattery(), ...notCharging(), ...goodPairs(), ...toCase([0.4, 0.52, 0.52]), ...diodes({ "1>B-": 0.01 })]);
  expect(verdict.part).toBe("stator");
  expect(verdict.also.map((one) => one.fault)).toContain("regulator.diode-shorted");
});

test("no set of readings makes it fall over, and every part has one mark", () => {
  const any = [
    ...provedBattery(),
    ...notCharging(),
    ...charging(13.9, 14.4, 14.2),
    ...goodStator(),
    ...toCase([0.3, 900, 5e4]),
    ...diodes({ "1>B+": 0, "B+>2": 1 }),
    ...goodFeedAndGround(),
    ...drops(14, 1, 1),
    reading("drain.current", 60),
    reading("inspect.terminals", "loose"),
    reading("inspect.connector", "green", { at: "output" }),
  ];
  fc.assert(
    fc.property(fc.subarray(any), (readings) => {
      const verdict = say(readings);
      expect(verdict.standing.map((one) => one.part)).toEqual([...PARTS]);
      expect(verdict.headline).toMatch(/\.$/);
    }),
    { numRuns: 200 },
  );
});
