import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { demoSheet, THREE_PHASE_SHEETS } from "../../demo/sheets";
import { elementsOf, numberNodes } from "../circuit/netlist";
import { steady } from "../circuit/steady";
import { circuitOf } from "./circuit";
import { conditionOf, NO_SPREAD, stateOf } from "./condition";
import { DEFECTS, type SetFault } from "./defects";
import { FAMILIES } from "./families/all";
import { FAULTS, type FaultId } from "./faults";
import { fromNearestWire, placesOf, unfitReason } from "./places";
import { pointName, pointsAlong } from "./points";
import { parseSheet, type Sheet } from "./sheet";
import type { Standing } from "./standing";
import { healthyState } from "./state";
import { probeNamed, waves } from "./wave";

const wye = demoSheet("corvane-ferrel-650") as Sheet;
/** Families whose machines have three legs of their own names. */
const THREE_LEGGED = FAMILIES.filter(({ ownNames }) => ownNames).map(({ id }) => id);
const RUN: Standing = { engine: "running", key: "on", rpm: 5000, loads: "normal", unplug: [], pulled: [] };

function volts(sheet: Sheet, standing: Partial<Standing> = {}, faults: SetFault[] = [], between: readonly [string, string] = ["battery+", "battery-"]): number {
  const netlist = circuitOf(stateOf(sheet, conditionOf(faults), true), { ...RUN, ...standing });
  return steady(netlist, { probes: [{ volts: between }], judge: ["battery+", "battery-"] }).mean[0] as number;
}

describe("the healthy machine of a sheet", () => {
  test.each(THREE_PHASE_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s makes the AC and has the ohms that its sheet prints", (_id, sheet) => {
    const state = healthyState(sheet);
    const [winding] = state.windings;
    const band = sheet.bands.find((row) => row.test === "stator.acVolts");
    const middle = ((band?.low ?? 0) + (band?.high ?? 0)) / 2;
    const line = sheet.winding === "delta" ? (winding?.voltsPerRpm ?? 0) / Math.SQRT2 : ((winding?.voltsPerRpm ?? 0) * Math.sqrt(3)) / Math.SQRT2;
    expect(line * (band?.rpm ?? 0)).toBeCloseTo(middle, 6);
    const pair = sheet.winding === "delta" ? (winding?.ohms ?? 0) / 1.5 : 2 * (winding?.ohms ?? 0);
    const ohms = sheet.bands.find((row) => row.test === "stator.resistance");
    expect(pair).toBeCloseTo(((ohms?.low ?? 0) + (ohms?.high ?? 0)) / 2, 6);
  });

  test("wye and delta of the same figures make the same at the terminals", () => {
    for (const rpm of [1500, 4000]) expect(volts({ ...wye, winding: "delta" }, { rpm })).toBeCloseTo(volts(wye, { rpm }), 1);
  });

  test.each(THREE_LEGGED)("%s holds its set point at any speed that can, as ridden", (family) => {
    for (const rpm of [2500, 4000, 7000]) expect(volts({ ...wye, family }, { rpm })).toBeCloseTo(14.31, 1);
  });

  test("a set point of six volts is half of twelve's", () => {
    const six: Sheet = {
      ...wye,
      systemVolts: 6,
      bands: [
        { test: "charge.volts", rpm: 5000, low: 6.9, high: 7.4 },
        { test: "stator.acVolts", rpm: 5000, low: 26, high: 36 },
      ],
    };
    expect(volts(six)).toBeCloseTo(7.15, 1);
  });

  test("on positive earth the case stands at battery plus", () => {
    const positive: Sheet = { ...wye, earth: "positive" };
    expect(Math.abs(volts(positive, {}, [], ["engine", "battery+"]))).toBeLessThan(0.2);
    expect(volts(positive)).toBeGreaterThan(13.5);
  });

  test("three legs carry alike", () => {
    const netlist = circuitOf(stateOf(wye, conditionOf(), true), RUN);
    const run = steady(netlist, { probes: [1, 2, 3].map((leg) => ({ volts: [`unitLeg:${leg}`, "unit-"] as const })), judge: ["battery+", "battery-"] });
    const rms = run.samples.map((track) => Math.sqrt(track.reduce((sum, sample) => sum + sample * sample, 0) / track.length));
    expect(Math.max(...rms) / Math.min(...rms)).toBeLessThan(1.02);
  });
});

describe("a condition", () => {
  test("sets heat, charge and spread", () => {
    const state = stateOf(wye, conditionOf([], { ambientC: -10, charge: 0.4, spread: { ...NO_SPREAD, emf: 1.1, setVolts: 0.2 } }), false);
    const sound = healthyState(wye);
    expect(state.battery).toMatchObject({ charge: 0.4, celsius: -10 });
    expect(state.windingC).toBe(-10);
    expect((state.windings[0]?.voltsPerRpm ?? 0) / (sound.windings[0]?.voltsPerRpm ?? 1)).toBeCloseTo(1.1);
    expect(state.unit.setVolts - sound.unit.setVolts).toBeCloseTo(0.2);
    expect(stateOf(wye, conditionOf(), true).windingC).toBe(80);
  });

  test("a joint that opens hot is whole while cold; a unit that fails hot works in the cold", () => {
    const joint = conditionOf([{ fault: "stator.joint-opens-hot", at: "2", severity: 60 }]);
    expect(stateOf(wye, joint, false).windings.map((winding) => winding.open)).toEqual([false, false, false]);
    expect(stateOf(wye, joint, true).windings.map((winding) => winding.open)).toEqual([false, true, false]);
    const unit = [{ fault: "regulator.fails-hot", severity: 10 } as const];
    expect(stateOf(wye, conditionOf(unit, { ambientC: 25 }), true).unit.gates).toBe("on");
    expect(stateOf(wye, conditionOf(unit, { ambientC: 0 }), true).unit.gates).toBe("control");
  });

  test("every fault alters the state it is set on, and the sound state stays as it was", () => {
    const before = JSON.stringify(healthyState(wye));
    for (const { id } of FAULTS) {
      const fault = id as FaultId;
      if (unfitReason(fault, wye)) continue;
      const { severity } = DEFECTS[fault];
      const set: SetFault = { fault, severity: fault.endsWith("hot") || fault === "battery.discharged" ? severity.low : severity.high };
      expect({ fault, same: JSON.stringify(stateOf(wye, conditionOf([set]), true)) === JSON.stringify(stateOf(wye, conditionOf(), true)) }).toEqual({
        fault,
        same: false,
      });
    }
    expect(JSON.stringify(healthyState(wye))).toBe(before);
  });

  test("faults add up whatever their order", () => {
    const faults: SetFault[] = [
      { fault: "rotor.weak", severity: 0.2 },
      { fault: "wiring.output-resistance", severity: 0.1 },
      { fault: "stator.turns-shorted", at: "2", severity: 0.3 },
      { fault: "loads.too-much", severity: 5 },
    ];
    expect(stateOf(wye, conditionOf([...faults].reverse()), true)).toEqual(stateOf(wye, conditionOf(faults), true));
  });

  test("places are legs, pairs, diodes or fuses, as the fault has it", () => {
    expect(placesOf("stator.winding-open", wye)).toEqual(["1", "2", "3"]);
    expect(placesOf("stator.windings-bridged", wye)).toEqual(["1-2", "2-3", "3-1"]);
    expect(placesOf("regulator.diode-open", wye)).toEqual(["1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3"]);
    expect(placesOf("wiring.fuse-open", wye)).toEqual(["main", "F3"]);
    expect(placesOf("rotor.weak", wye)).toEqual([]);
  });

  test("a touch is said of the wire that it lies nearest, and measured from there", () => {
    const touch = (id: string, along: number) => {
      const { at, along: from } = fromNearestWire({ fault: "stator.winding-grounded", at: "1", along, severity: 0.1 }, demoSheet(id) as Sheet);
      return [at, from?.toFixed(2)];
    };
    // Of a delta both ends of a winding lead out, and of a winding by itself; in a wye the far end is the neutral.
    expect([touch("brannoch-corrie-600", 0.9), touch("brannoch-corrie-600", 0.3)]).toEqual([
      ["2", "0.10"],
      ["1", "0.30"],
    ]);
    expect(touch("mossgate-cloister-18", 0.8)).toEqual(["2", "0.20"]);
    expect(touch("corvane-ferrel-650", 0.9)).toEqual(["1", "0.90"]);
    expect(fromNearestWire({ fault: "stator.winding-open", at: "1" }, demoSheet("brannoch-corrie-600") as Sheet)).toEqual({
      fault: "stator.winding-open",
      at: "1",
    });
  });

  test("a stator burns in every winding where it has several that stand still", () => {
    const { windings } = stateOf(wye, conditionOf([{ fault: "stator.burnt", severity: 0.6 }]), true);
    expect(windings.map(({ shorted }) => shorted?.share)).toEqual([0.6, 0.6, 0.6]);
    const fits = (id: string): boolean => unfitReason("stator.burnt", demoSheet(id) as Sheet) === undefined;
    expect(["corvane-tern-400", "mossgate-cloister-18", "corvane-merle-250"].map(fits)).toEqual([true, false, false]);
  });

  test.each<[FaultId, string, string[]]>([
    ["regulator.diode-open", "2>B+", ["2>B+"]],
    ["regulator.diode-open", "B->3", ["B->3"]],
    ["regulator.diode-shorted", "B->1", ["B->1"]],
    ["regulator.half-open", "upper", ["1>B+", "2>B+", "3>B+"]],
    ["regulator.leg-open", "2", ["2>B+", "B->2"]],
  ])("%s at %s ails the ways %j and no other", (fault, at, ways) => {
    const { unit } = stateOf(wye, conditionOf([{ fault, at }]), true);
    expect(Object.keys(unit.ways).filter((way) => unit.ways[way] !== "sound")).toEqual(ways);
  });
});

describe("the netlist", () => {
  const conditions = fc.array(
    fc.constantFrom(...FAULTS.map((fault) => fault.id as FaultId).filter((id) => !unfitReason(id, wye))).chain((fault) => {
      const places = placesOf(fault, wye);
      return fc.record({
        fault: fc.constant(fault),
        ...(places.length > 0 ? { at: fc.constantFrom(...places) } : {}),
        ...(DEFECTS[fault].along ? { along: fc.double({ min: 0, max: 1, noNaN: true }) } : {}),
      });
    }),
    { maxLength: 5 },
  );

  test("has one id an element, positive resistances, and every probe point as a node, whatever ails it and however it stands", () => {
    const standing = fc.record({
      engine: fc.constantFrom("off" as const, "cranking" as const, "running" as const),
      key: fc.constantFrom("out" as const, "on" as const),
      rpm: fc.integer({ min: 300, max: 9000 }),
      loads: fc.constantFrom("off" as const, "normal" as const, "all" as const),
      unplug: fc.subarray(["stator", "unit", "output", "negative"] as const),
      pulled: fc.subarray(["main", "F3"]),
    });
    fc.assert(
      fc.property(
        conditions,
        standing,
        fc.constantFrom(...THREE_LEGGED),
        fc.constantFrom("wye" as const, "delta" as const),
        (faults, stands, family, winding) => {
          const sheet: Sheet = { ...wye, family, winding };
          const netlist = circuitOf(stateOf(sheet, conditionOf(faults as SetFault[]), stands.engine === "running"), stands);
          const ids = netlist.elements.map((element) => element.id);
          expect(new Set(ids).size).toBe(ids.length);
          for (const resistor of elementsOf(netlist, "resistor")) expect(resistor.ohms).toBeGreaterThan(0);
          for (const coil of elementsOf(netlist, "winding")) expect(Math.min(coil.ohms, coil.henries)).toBeGreaterThan(0);
          const nodes = numberNodes(netlist);
          for (const point of pointsAlong(sheet)) expect(nodes.has(point)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  test("waveforms are named by points, pairs and currents; a name of nothing is none", () => {
    const netlist = circuitOf(stateOf(wye, conditionOf(), true), RUN);
    expect(probeNamed("leg:1", netlist)).toEqual({ volts: ["leg:1", "battery-"] });
    expect(probeNamed("leg:1,leg:2", netlist)).toEqual({ volts: ["leg:1", "leg:2"] });
    expect(probeNamed("@battery", netlist)).toEqual({ amps: "battery" });
    for (const name of ["leg:9", "leg:1,nowhere", "@nobody", "@control", ""]) expect(probeNamed(name, netlist)).toBeUndefined();
    const run = waves(netlist, [{ volts: ["leg:1", "leg:2"] }]);
    expect(run.unsteady).toBeUndefined();
    expect(run.samples[0]?.length).toBeGreaterThan(1000);
  });

  test("points have names a mechanic would use", () => {
    for (const point of pointsAlong(wye)) expect(pointName(point, wye)).toMatch(/^[a-z0-9].{3,}/i);
    expect(new Set(pointsAlong(wye).map((point) => pointName(point, wye))).size).toBe(pointsAlong(wye).length);
  });
});

test.each([
  ["a winding that never touches", { polePairs: -3 }, /polePairs/],
  ["a resistance below nothing", { bands: [{ test: "stator.resistance", low: -1 }] }, /bands\.0\.low/],
  ["no rated amps at all", { ratedAmps: 0 }, /ratedAmps/],
  ["loads below nothing", { loadAmps: { normal: -1, all: 4 } }, /loadAmps\.normal/],
  ["a battery of no size", { battery: { chemistry: "agm", ah: 0 } }, /battery\.ah/],
])("an impossible sheet, %s, is refused by its field", (_what, over, field) => {
  const parsed = parseSheet({ ...wye, ...over });
  expect(parsed.ok ? "" : parsed.problems[0]?.field).toMatch(field);
});
