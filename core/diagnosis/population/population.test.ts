import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../../demo/sheets";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { FAULTS, type FaultId } from "../../machine/faults";
import { unfitReason } from "../../machine/places";
import type { Sheet } from "../../machine/sheet";
import { COMPLAINTS } from "../../procedure/complaints";
import type { Step } from "../../procedure/step";
import { remediesOf, remedyOf, setOf } from "../remedies";
import { SPREAD_COUNT } from "./column";
import { type History, hypothesesOf, NO_HISTORY } from "./hypotheses";
import { lookOf } from "./look";
import { PARTED_OHMS } from "./parted";
import { COMPLAINT_ODDS, FILLS, RATES, TOGETHER } from "./rates";

const sheet = sheetOf("corvane-ferrel-650");
const population = populationOf(sheet);

describe.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("what may have failed on the %s", (_id, machine) => {
  const all = hypothesesOf(machine, NO_HISTORY);

  test("is each fault that fits it, at every place, under the name of what mends it", () => {
    expect(all.reduce((sum, { prior }) => sum + prior, 0)).toBeCloseTo(1, 9);
    const met = new Set(all.flatMap(({ faults }) => faults.map(({ fault }) => fault)));
    for (const { id } of FAULTS) expect([id, met.has(id)]).toEqual([id, !unfitReason(id, machine)]);
    for (const { faults, set, prior } of all) {
      expect(prior).toBeGreaterThan(0);
      expect(set).toBe(setOf(faults.map(({ fault }) => remedyOf(fault))));
    }
  });

  test("is thought of once each", () => {
    const names = all.map(({ faults }) => faults.map(({ fault, at }) => `${fault} ${at ?? ""}`).join("+"));
    expect(new Set(names).size).toBe(names.length);
  });

  test("is one fault far more often than two", () => {
    const two = all.filter(({ faults }) => new Set(faults.map(({ fault }) => fault)).size === 2).reduce((sum, { prior }) => sum + prior, 0);
    expect(two).toBeGreaterThan(0.05);
    expect(two).toBeLessThan(0.35);
  });
});

describe("rates", () => {
  test("are positive, with severities that rise and fills that exist", () => {
    for (const { id } of FAULTS) {
      const { rate, severity, fill } = RATES[id];
      expect(rate).toBeGreaterThan(0);
      expect(FILLS[fill][0]).toBeLessThan(FILLS[fill][1]);
      if (severity) expect(severity[0]).toBeLessThan(severity[1]);
      if (severity?.[2]) expect(severity[0]).toBeGreaterThan(0);
    }
  });

  test("pairs are of two different parts' faults, or of what burns one part through, each once", () => {
    const names = TOGETHER.map(({ first, second }) => [first, second].join("+"));
    expect(new Set(names).size).toBe(names.length);
    const partOf = (fault: string): string => fault.slice(0, fault.indexOf("."));
    const burnt = TOGETHER.flatMap(({ first, second }) => (partOf(first) === partOf(second) ? [partOf(first)] : []));
    // A unit's own diodes and gates die together, and turns short where a winding touches the core.
    expect([...new Set(burnt)].sort()).toEqual(["regulator", "stator"]);
    for (const { first, second } of TOGETHER)
      if (partOf(first) !== partOf(second)) expect(setOf([remedyOf(first), remedyOf(second)]).split("+")).toHaveLength(2);
  });

  test("lean only on complaints that can be picked, to faults that exist", () => {
    const known = new Set<string>([...FAULTS.map(({ id }) => id), "sound"]);
    for (const [complaint, leans] of Object.entries(COMPLAINT_ODDS)) {
      expect(COMPLAINTS.map(({ id }) => id as string)).toContain(complaint);
      for (const { factor, faults } of leans) {
        expect(factor).toBeGreaterThan(0);
        for (const fault of faults) expect(known.has(fault)).toBe(true);
      }
    }
  });

  test("an old battery is worn more often, up to a point; a young one less", () => {
    const worn = (batteryAgeYears: number | null): number => sumOf("battery.sulphated", { ...NO_HISTORY, batteryAgeYears });
    expect(worn(1)).toBeLessThan(worn(null));
    expect(worn(5)).toBeGreaterThan(worn(null));
    expect(worn(40)).toBeCloseTo(worn(30), 9);
  });

  test("what this shop has confirmed counts, and does not drown the rest", () => {
    const many: History = { ...NO_HISTORY, confirmed: { "regulator.diode-open": 1000 } };
    expect(sumOf("regulator.diode-open", many)).toBeGreaterThan(0.5);
    expect(sumOf("battery.sulphated", many)).toBeGreaterThan(0.001);
  });

  test("two pins burn less often than three", () => {
    const against = (machine: Sheet): number => sumOf("wiring.leg-burnt", NO_HISTORY, machine) / sumOf("wiring.fuse-open", NO_HISTORY, machine);
    expect(against(sheetOf("mossgate-cloister-18")) / against(sheet)).toBeCloseTo(2 / 3, 6);
  });

  function sumOf(fault: FaultId, history: History, machine: Sheet = sheet): number {
    return hypothesesOf(machine, history)
      .filter(({ faults }) => faults.length === 1 && faults[0]?.fault === fault)
      .reduce((sum, { prior }) => sum + prior, 0);
  }
});

describe("the machines thought of", () => {
  test("share each hypothesis out among them", () => {
    const shares = new Float64Array(population.hypotheses.length);
    for (const { hypothesis, share } of population.particles) shares[hypothesis] = (shares[hypothesis] as number) + share;
    for (const share of shares) expect(share).toBeCloseTo(1, 9);
  });

  test.each(["tidewright-farway-29", "corvane-merle-250"])("of worn brushes on the %s some touch nothing at all", (id) => {
    const { particles } = populationOf(sheetOf(id));
    const worn = particles.flatMap(({ candidate: { faults } }) => (faults.length === 1 && faults[0]?.fault === "rotor.brushes-worn" ? faults : []));
    const off = worn.filter(({ severity = 0 }) => severity >= 1e6);
    expect(off.length).toBeGreaterThan(0);
    expect(off.length).toBeLessThan(worn.length / 2);
  });

  test("have the faults of their hypothesis, as bad as they are met, and batteries as full", () => {
    for (const { hypothesis, candidate } of population.particles) {
      const { faults } = population.hypotheses[hypothesis] ?? { faults: [] };
      expect(candidate.faults.map(({ fault, at }) => [fault, at])).toEqual(faults.map(({ fault, at }) => [fault, at]));
      for (const { fault, severity, along } of candidate.faults) {
        const range = RATES[fault].severity;
        expect(severity === undefined).toBe(range === undefined);
        if (range && severity !== undefined) {
          expect(severity).toBeGreaterThanOrEqual(range[0]);
          // Beyond what is met lies what is parted: joints above some ohms, and a ground that is broken off.
          if (severity > range[1] && fault !== "wiring.ground-resistance") expect(range[1]).toBeGreaterThan(PARTED_OHMS);
        }
        if (along !== undefined) expect(Math.abs(along - 0.5)).toBeLessThanOrEqual(0.5);
      }
      const [low, high] = FILLS[faults[0] ? RATES[faults[0].fault].fill : "full"];
      expect(candidate.charge).toBeGreaterThanOrEqual(low);
      expect(candidate.charge).toBeLessThanOrEqual(high);
    }
  });

  test("differ: one fault comes slight and bad", () => {
    const drawing = population.hypotheses.findIndex(({ faults }) => faults.length === 1 && faults[0]?.fault === "loads.parasitic");
    const draws = population.particles.flatMap(({ hypothesis, candidate }) => (hypothesis === drawing ? [candidate.faults[0]?.severity as number] : []));
    expect(draws.length).toBeGreaterThan(5);
    expect(new Set(draws).size).toBe(draws.length);
    expect(Math.max(...draws) / Math.min(...draws)).toBeGreaterThan(20);
  });

  test("stand in cells of one hypothesis each, every machine in one", () => {
    const seen = population.cells.flatMap(({ hypothesis, members, middle }) => {
      for (const member of members) expect(population.particles[member]?.hypothesis).toBe(hypothesis);
      expect(members).toContain(middle);
      return members;
    });
    expect([...seen].sort((a, b) => a - b)).toEqual(population.particles.map((_, i) => i));
  });

  test("are leaned by what is known, and still add up to one", () => {
    const priors = population.priors({ complaint: ["flat-overnight"], batteryAgeYears: 6, confirmed: {} });
    expect(priors.reduce((sum, prior) => sum + prior, 0)).toBeCloseTo(1, 9);
    const drawn = (from: Float64Array): number =>
      population.hypotheses.reduce((sum, { set }, h) => sum + (remediesOf(set).includes("loads") ? (from[h] as number) : 0), 0);
    expect(drawn(priors)).toBeGreaterThan(1.5 * drawn(population.priors(NO_HISTORY)));
  });
});

describe("what a look shows on them", () => {
  test("is worked out once", () => {
    const look = lookOf({ test: "battery.rest" });
    expect(population.column(lookOf({ test: "battery.rest" }))).toBe(population.column(look));
    expect(population.column(lookOf({ test: "battery.rest" }, { charged: true }))).not.toBe(population.column(look));
  });

  test("is a figure for each, with slopes for each cell", () => {
    const column = population.column(lookOf({ test: "charge.volts", rpm: 5000, loads: "all" }));
    expect(column.at).toHaveLength(population.particles.length);
    expect(column.slopes).toHaveLength(population.cells.length * SPREAD_COUNT);
    expect(column.words).toHaveLength(0);
    expect(column.moved.length).toBeGreaterThan(3);
    expect(column.slopes.every(Number.isFinite)).toBe(true);
  });

  test("is the odds of each word where the answer is a word", () => {
    const { words } = population.column(lookOf({ test: "inspect.connector", at: "stator" } as Step));
    expect(words.length).toBeGreaterThan(2);
    population.particles.forEach((_, i) => {
      expect(words.reduce((sum, word) => sum + (word[i] as number), 0)).toBeCloseTo(1, 9);
    });
  });

  test("is the open line where nothing conducts: every sound winding is clear of the case", () => {
    const { open } = population.column(lookOf({ test: "stator.toGround", at: "1" }));
    const sound = population.particles.findIndex(({ hypothesis }) => population.hypotheses[hypothesis]?.set === "");
    const touching = population.particles.findIndex(
      ({ candidate: { faults } }) => faults[0]?.fault === "stator.winding-grounded" && (faults[0].severity ?? 1e9) < 1,
    );
    expect(open[sound]).toBeGreaterThan(0.9);
    expect(open[touching]).toBeLessThan(0.1);
  });
});

test("a joint that opens with heat may be open under load and closed once its plug is parted: cold, so, and open all along", () => {
  const population = populationOf(sheetOf("corvane-ferrel-650"));
  const hot = population.particles.flatMap(({ candidate: { faults } }, i) =>
    faults.length === 1 && faults[0]?.fault === "stator.joint-opens-hot" && faults[0].at === "1" ? [i] : [],
  );
  const shown = (step: Step): number[] => hot.map((i) => population.column(lookOf(step)).at[i] as number);
  const [loaded, parted] = [shown({ test: "stator.legDrop", at: "1", rpm: 5000, loads: "normal" }), shown({ test: "stator.acVolts", at: "1-2", rpm: 5000 })];
  const [soundLoaded, soundParted] = [Math.max(...loaded), Math.max(...parted)];
  const seen = new Set(hot.map((_, k) => `${(loaded[k] as number) < soundLoaded - 0.3}${(parted[k] as number) < soundParted - 0.5}`));
  // Not yet hot; open while current flows; open whenever the engine runs. Never sound under load and open without it.
  expect([...seen].sort()).toEqual(["falsefalse", "truefalse", "truetrue"]);
});
