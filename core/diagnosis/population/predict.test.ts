import { describe, expect, test } from "@jest/globals";
import { atlasOf, populationOf, sheetOf } from "../../../tests/support/population";
import { conditionOf } from "../../machine/condition";
import { DEFECTS, type SetFault } from "../../machine/defects";
import { leadsOf } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import { FAULTS, type FaultId } from "../../machine/faults";
import { placesOf, unfitReason } from "../../machine/places";
import type { Sheet } from "../../machine/sheet";
import type { Meter } from "../../meter/meter";
import { type TestId, testOf } from "../../procedure/catalogue";
import { simulateStep } from "../../procedure/simulate";
import { type Step, stepKey, stepsOf } from "../../procedure/step";
import { isOpen } from "../../units";
import { type Build, buildsOf } from "./builds";
import { gaugeOf, isWorded, misreadRange, noiseOf, offScale, onScale, wordsOf } from "./gauges";
import { lookOf, lookOfReading, weighedSteps } from "./look";
import { type Offsets, SPREADS } from "./nuisance";
import { predict } from "./predict";
import { RATES } from "./rates";
import { type Candidate, Subject, surroundingsOf } from "./subject";

const METER: Meter = { name: "m", leadOhms: 0, ohmsResolution: 0.001, trueRms: true, diodeMaxVolts: 2.8 };
const COLD = { warm: false, running: true, charged: false, mended: [] };

/** A middling severity of a fault, at its second place where it has more than one. */
function middling(id: FaultId, places: readonly string[], sheet: Sheet): SetFault[] {
  const range = RATES[id].severity;
  const middle = range && (range[2] === "log" ? Math.sqrt(range[0] * range[1]) : (range[0] + range[1]) / 2);
  const severity = middle !== undefined && id === "loads.too-much" ? Math.min(middle, (sheet.ratedAmps ?? middle) / 2) : middle;
  const at = places[Math.min(1, places.length - 1)];
  const set: SetFault = { fault: id, ...(at ? { at } : {}), ...(severity === undefined ? {} : { severity }) };
  return id === "regulator.diode-leaky" && places.includes("B->2") ? [set, { ...set, at: "B->2" }] : [set];
}

/** What the candidates of a sheet's one build share, at 20 °C. */
const aroundOf = (sheet: Sheet) => surroundingsOf(buildsOf(sheet)[0] as Build, atlasOf(sheet), 20);

/** How far a prediction may lie from the circuit's own answer, on the test's scale. */
const ALLOWED: Partial<Record<TestId, number>> = {
  "charge.current": 2,
  "charge.ripple": 1,
  "battery.conductance": 0.08,
  "stator.legDrop": 0.6,
  "stator.toGround": 0.15,
};
/**
 * Of one phase the current comes in pulses: a battery with a bad joint rises with each and takes less than a steady current would bring,
 * and a unit whose ground floats feels them. The sums know means only. V.
 */
const PULSED: Partial<Record<FaultId, number>> = { "battery.open-joint": 0.6, "regulator.ground-open": 0.4 };
/** Of a field that is starved, or turned slowly, little comes of the strength that charts are drawn at: they are scaled far there. V. */
const FAR: Partial<Record<FaultId, number>> = { "rotor.brushes-worn": 0.35, "drive.belt-slack": 0.3 };
/** Where nothing holds the volts, the circuit's figure means as little as the prediction's; that is held to its vagueness below. */
const STEADIED: readonly TestId[] = ["charge.outputVolts", "charge.positiveDrop", "regulator.feed"];

const OF_EVERY_FAMILY = [
  "corvane-ferrel-650",
  "brannoch-corrie-600",
  "brannoch-fell-850",
  "mossgate-cloister-18",
  "mossgate-pavilion-12",
  "corvane-dabchick-50",
  "corvane-tern-400",
  "brannoch-tor-440",
  "tidewright-farway-29",
  "corvane-merle-250",
];

describe("predictions follow the circuit", () => {
  test.each(OF_EVERY_FAMILY)("every fault of the %s at a middling severity", (id) => {
    const sheet = sheetOf(id);
    const around = aroundOf(sheet);
    const off: string[] = [];
    const pulsed = familyOf(sheet.family).joins.length === 0;
    const allowed = (test: TestId, fault: FaultId): number => {
      const running = test.startsWith("charge.") || test === "field.fullField";
      const own = familyOf(sheet.family).field ? { ...PULSED, ...FAR } : pulsed ? PULSED : {};
      return Math.max(ALLOWED[test] ?? 0.25, (running && own[fault]) || 0);
    };
    for (const { id: fault } of FAULTS) {
      // A short through a diode melts the fuse: which reading then sees it blown depends on the order, which one condition cannot hold.
      if (unfitReason(fault, sheet) || fault.endsWith("diode-shorted") || fault.endsWith("hot")) continue;
      const faults = middling(fault, placesOf(fault, sheet), sheet);
      const candidate: Candidate = { faults, charge: 0.8, early: true, fuse: 1, alwaysLit: false };
      const subject = new Subject(around, candidate, COLD);
      for (const step of weighedSteps(sheet)) {
        // One leg and one pair stand for all: the circuit takes its time.
        if ((step.test.startsWith("stator.ac") || step.test === "stator.legDrop") && step.at?.[0] !== "2") continue;
        if (isWorded(step.test) || (STEADIED.includes(step.test) && subject.outputOpen) || step.test === "regulator.ground") continue;
        // Pins above which a leg counts as parted are either soldered or open.
        if (fault === "wiring.cable-broken" && step.test === "stator.acVoltsAtUnit") continue;
        // Most meters show less of what strays into a leg that hangs on nothing than the circuit's does.
        const hangs = step.test.startsWith("stator.ac") && ["stator.winding-open", "stator.leads-parted"].includes(fault);
        const seen = predict(subject, lookOf(step), hangs ? { stray: 0.6 } : {});
        const { value } = simulateStep(sheet, conditionOf(faults, { charge: 0.8 }), step, METER);
        if ("words" in seen) throw new Error(`${step.test} is worded`);
        const open = seen.open > 0.5;
        if (open !== isOpen(value)) off.push(`${fault} ${stepKey(step)}: ${value} but predicted ${open ? "open" : offScale(step.test, seen.at).toFixed(2)}`);
        else if (!open && Math.abs(onScale(step.test, value as number) - seen.at) > allowed(step.test, fault))
          off.push(`${fault} ${stepKey(step)}: ${value} but predicted ${offScale(step.test, seen.at).toFixed(3)}`);
      }
    }
    expect(off).toEqual([]);
  });

  // An alternator parted from its field has nothing to show.
  test.each(OF_EVERY_FAMILY.filter((id) => id !== "tidewright-farway-29"))(
    "windings of the %s that carry nothing, read at a speed that no chart is drawn at",
    (id) => {
      const sheet = sheetOf(id);
      const subject = new Subject(aroundOf(sheet), { faults: [], charge: 0.8, early: false, fuse: 1, alwaysLit: false }, COLD);
      const read = weighedSteps(sheet).filter(({ test, rpm }) => typeof rpm === "number" && /^stator\.(ac|dc)Volts/.test(test));
      if (familyOf(sheet.family).id === "dc-generator") read.push({ test: "generator.output", rpm: 2 * sheet.idleRpm });
      expect(read.length).toBeGreaterThan(0);
      for (const charted of read) {
        const step = { ...charted, rpm: Math.round(0.72 * Number(charted.rpm)) };
        const value = Number(simulateStep(sheet, conditionOf([], { charge: 0.8 }), step, METER).value);
        const { look, factor } = lookOfReading({ id: "r", value, ...step }, sheet) as NonNullable<ReturnType<typeof lookOfReading>>;
        const seen = predict(subject, look, {});
        const off = "at" in seen ? Math.abs(seen.at - onScale(step.test, factor * value)) : Number.POSITIVE_INFINITY;
        expect([stepKey(step), off < 0.12]).toEqual([stepKey(step), true]);
      }
      for (const step of stepsOf(testOf("inspect.tach"), sheet)) {
        const seen = predict(subject, lookOf({ ...step, rpm: Math.round(0.72 * sheet.testRpm) }), {});
        expect("words" in seen && seen.words[0]).toBeGreaterThan(0.9);
      }
    },
  );

  // At the test speed every fault is held to the circuit above.
  test.each<[string, SetFault[]]>([
    ["sound", []],
    ["with a unit that never regulates", [{ fault: "regulator.never-regulates" }]],
    ["with its main winding open", [{ fault: "stator.winding-open", at: "M" }]],
  ])("lights that switch a winding in are off, a fifth below the test speed, on a machine %s", (_, faults) => {
    const sheet = sheetOf("corvane-tern-400");
    const running = { rpm: 0.8 * sheet.testRpm, loads: "off" } as const;
    const subject = new Subject(aroundOf(sheet), { faults, charge: 0.8, early: false, fuse: 1, alwaysLit: false }, COLD);
    for (const [test, allowed] of [
      ["charge.volts", 0.4],
      ["charge.ripple", ALLOWED["charge.ripple"] as number],
    ] as const) {
      const step: Step = { test, ...running };
      const seen = predict(subject, lookOf(step), {});
      const shown = onScale(test, Number(simulateStep(sheet, conditionOf(faults, { charge: 0.8 }), step, METER).value));
      expect(Math.abs(("at" in seen ? seen.at : Number.NaN) - shown)).toBeLessThan(allowed);
      expect(lookOfReading({ id: "near", value: 14, ...step }, sheet)).toBeDefined();
      for (const rpm of ["idle", sheet.testRpm / 2] as const) expect(lookOfReading({ id: "far", value: 14, ...step, rpm }, sheet)).toBeUndefined();
    }
  });

  test.each<[string, SetFault, boolean]>([
    // From the battery through a coil to ground: the fuse goes before the engine turns.
    ["corvane-dabchick-50", { fault: "regulator.diode-shorted", at: "C>B+" }, true],
    ["mossgate-pavilion-12", { fault: "stator.diode-shorted", at: "D" }, true],
    // Nothing fires behind a field: two phases short each other, and the fuse carries what is left.
    ["tidewright-farway-29", { fault: "regulator.diode-shorted", at: "1>B+" }, false],
    ["brannoch-tor-440", { fault: "regulator.diode-shorted", at: "B->3" }, false],
  ])("a shorted way into the battery or to ground, on the %s", (id, short, melts) => {
    const sheet = sheetOf(id);
    const subject = new Subject(aroundOf(sheet), { faults: [short], charge: 0.8, early: true, fuse: 1, alwaysLit: false }, COLD);
    expect(subject.melted).toBe(melts);
    const off: string[] = [];
    for (const step of weighedSteps(sheet)) {
      if (!["charge.volts", "charge.outputVolts", "charge.positiveDrop"].includes(step.test)) continue;
      const seen = predict(subject, lookOf(step), {});
      const { value } = simulateStep(sheet, conditionOf([short], { charge: 0.8 }), step, METER);
      if ("words" in seen || typeof value !== "number") throw new Error(stepKey(step));
      if (Math.abs(onScale(step.test, value) - seen.at) > 0.25) off.push(`${stepKey(step)}: ${value} but predicted ${offScale(step.test, seen.at).toFixed(2)}`);
    }
    expect(off).toEqual([]);
  });

  test.each<[string, SetFault]>([
    ["corvane-ferrel-650", { fault: "stator.burnt", severity: 0.15 }],
    ["brannoch-fell-850", { fault: "stator.burnt", severity: 0.3 }],
    ["ostrel-burro-520", { fault: "stator.turns-shorted", at: "2", severity: 0.5 }],
    ["mossgate-cloister-18", { fault: "stator.turns-shorted", at: "1", severity: 0.5 }],
  ])("windings that are burnt and touch the core, on the %s", (id, burnt) => {
    const sheet = sheetOf(id);
    const faults: SetFault[] = [burnt, { fault: "stator.winding-grounded", at: burnt.at ?? "1", severity: 0.5, along: 0.4 }];
    const subject = new Subject(aroundOf(sheet), { faults, charge: 0.8, early: true, fuse: 1, alwaysLit: false }, COLD);
    const off: string[] = [];
    for (const step of weighedSteps(sheet)) {
      if (!["stator.acVolts", "stator.toGround", "charge.volts"].includes(step.test)) continue;
      const seen = predict(subject, lookOf(step), {});
      const { value } = simulateStep(sheet, conditionOf(faults, { charge: 0.8 }), step, METER);
      if ("words" in seen || typeof value !== "number") throw new Error(stepKey(step));
      // The two were charted apart: what one leaves of the current the other is taken to leave as well.
      const allowed = step.test === "charge.volts" ? 0.8 : (ALLOWED[step.test] ?? 0.25);
      if (Math.abs(onScale(step.test, value) - seen.at) > allowed)
        off.push(`${stepKey(step)}: ${value} but predicted ${offScale(step.test, seen.at).toFixed(2)}`);
    }
    expect(off).toEqual([]);
  });

  test.each(["corvane-ferrel-650", "ostrel-burro-520", "corvane-linnet-125"])(
    "a unit that no battery steadies, on the %s: the circuit lies within what is said to be vague",
    (id) => {
      const sheet = sheetOf(id);
      const around = aroundOf(sheet);
      const main = { fault: "wiring.fuse-open" as const, at: sheet.fuses[0]?.id ?? "main" };
      const short = { fault: "regulator.diode-shorted" as const, at: "1>B+" };
      const sets: SetFault[][] = [
        [main],
        [short],
        [{ fault: "stator.turns-shorted", at: "1", severity: 0.4 }, short],
        [{ fault: "regulator.no-output" }, main],
      ];
      for (const faults of sets) {
        const subject = new Subject(around, { faults, charge: 0.6, early: true, fuse: 1, alwaysLit: false }, COLD);
        expect(subject.outputOpen).toBe(true);
        for (const test of ["charge.outputVolts", "charge.positiveDrop", "charge.volts", "charge.groundDrop", "charge.current"] as const) {
          const look = lookOf({ test, rpm: sheet.testRpm, loads: "normal" });
          const [seen, off] = [predict(subject, look, {}), predict(subject, look, { floating: 1 })];
          if ("words" in seen || "words" in off) throw new Error(test);
          const blown = faults.includes(main) ? faults : [...faults, main];
          const value = simulateStep(sheet, conditionOf(blown, { charge: 0.6 }), look.step, METER).value as number;
          const vague = Math.abs(off.at - seen.at);
          expect([test, faults[0]?.fault, Math.abs(value - seen.at) < 0.6 + 1.6 * vague]).toEqual([test, faults[0]?.fault, true]);
          if (test === "charge.outputVolts") expect(vague).toBeGreaterThan(0.5);
          if (test === "charge.volts" || test === "charge.current") expect(vague).toBe(0);
        }
      }
    },
  );

  test("what is on with the loads off is never more than as ridden, and all of that where lamps burn whenever the engine runs", () => {
    const sheet = sheetOf("ostrel-burro-520");
    // Weak enough that its unit has nothing to hold back.
    const faults: SetFault[] = [{ fault: "rotor.weak", severity: 0.6 }];
    const subjects = [false, true].map((alwaysLit) => new Subject(aroundOf(sheet), { faults, charge: 0.8, early: false, fuse: 1, alwaysLit }, COLD));
    const shown = (subject: Subject | undefined, loads: Step["loads"], z: Offsets = {}): number => {
      const seen = subject && predict(subject, lookOf({ test: "charge.volts", rpm: 3000, loads }), z);
      if (!seen || "words" in seen) throw new Error("figures are expected");
      return seen.at;
    };
    const [switched, lit] = subjects;
    expect(shown(switched, "off")).toBeGreaterThan(shown(switched, "normal") + 0.3);
    expect(shown(lit, "off")).toBeCloseTo(shown(lit, "normal"), 6);
    expect(shown(switched, "off", { unlit: 9 })).toBeCloseTo(shown(switched, "normal"), 6);
    expect(shown(switched, "all", { switched: -1 })).toBeCloseTo(shown(switched, "normal"), 6);
    expect(shown(switched, "all", { switched: 1 })).toBeLessThan(shown(switched, "all") - 0.1);
  });

  test("no spread moves a figure further than its test can show", () => {
    const population = populationOf(sheetOf("ostrel-burro-520"));
    const { sheet } = population;
    for (const step of weighedSteps(sheet)) {
      if (isWorded(step.test)) continue;
      const { slopes, at, open } = population.column(lookOf(step));
      const { range } = gaugeOf(step.test);
      const most = slopes.reduce((so, slope) => Math.max(so, Math.abs(slope)), 0);
      expect([step.test, most < 3 * range]).toEqual([step.test, true]);
      for (const [i, value] of at.entries()) if ((open[i] as number) < 0.5) expect([step.test, Math.abs(value) < 100 + 2 * range]).toEqual([step.test, true]);
    }
  });

  test("a pair with a leg that hangs on nothing strays; a sound pair does not", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const subject = new Subject(
      aroundOf(sheet),
      { faults: [{ fault: "stator.winding-open", at: "1" }], charge: 0.8, early: false, fuse: 1, alwaysLit: false },
      COLD,
    );
    const strays = (at: string): number => {
      const look = lookOf({ test: "stator.acVolts", at, rpm: 5000 });
      const [seen, off] = [predict(subject, look, {}), predict(subject, look, { stray: 0.6 })];
      if ("words" in seen || "words" in off) throw new Error("words");
      return off.at - seen.at;
    };
    expect(strays("1-2")).toBeGreaterThan(0.3);
    expect(strays("2-3")).toBe(0);
    // Half a volt, as most meters show, is no surprise there.
    const usual = predict(subject, lookOf({ test: "stator.acVolts", at: "1-2", rpm: 5000 }), { stray: -SPREADS.stray });
    if ("words" in usual) throw new Error("words");
    expect(offScale("stator.acVolts", usual.at)).toBeLessThan(1.2);
  });

  test("a fuse melts where a shorted upper diode meets a shunt that fires, and not where nothing fires", () => {
    const melted = (id: string, faults: SetFault[]): boolean =>
      new Subject(aroundOf(sheetOf(id)), { faults, charge: 0.9, early: true, fuse: 1, alwaysLit: false }, COLD).melted;
    const short: SetFault = { fault: "regulator.diode-shorted", at: "1>B+" };
    expect(melted("corvane-ferrel-650", [short])).toBe(true);
    expect(melted("corvane-ferrel-650", [{ ...short, at: "B->1" }])).toBe(false);
    expect(melted("brannoch-fell-850", [short])).toBe(false);
  });

  test("mending a part takes its fault out of every later look", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const around = aroundOf(sheet);
    const candidate: Candidate = { faults: [{ fault: "regulator.no-output" }], charge: 0.4, early: true, fuse: 1, alwaysLit: false };
    const volts = (mended: ("regulator" | "stator")[]): number => new Subject(around, candidate, { ...COLD, mended }).charging(5000, "normal", {}).volts;
    expect(volts([])).toBeLessThan(12.4);
    expect(volts(["stator"])).toBeLessThan(12.6);
    expect(volts(["regulator"])).toBeGreaterThan(13.8);
  });

  test("a charge fills a battery that can hold one", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const around = aroundOf(sheet);
    const rest = (faults: SetFault[], charged: boolean): number =>
      new Subject(around, { faults, charge: 0.3, early: true, fuse: 1, alwaysLit: false }, { ...COLD, charged }).restVolts({}, 12);
    expect(rest([{ fault: "battery.discharged", severity: 0.2 }], false)).toBeLessThan(12.2);
    expect(rest([{ fault: "battery.discharged", severity: 0.2 }], true)).toBeGreaterThan(12.7);
    expect(rest([{ fault: "battery.shorted-cell", severity: 1 }], true)).toBeLessThan(11);
  });

  test("a worn battery may refuse part of a charge, a new one in its place takes it all", () => {
    const around = aroundOf(sheetOf("corvane-ferrel-650"));
    const worn: Candidate = { faults: [{ fault: "battery.sulphated", severity: 7 }], charge: 0.5, early: true, fuse: 1, alwaysLit: false };
    const rest = (candidate: Candidate, refused: number, mended: "battery"[] = []): number =>
      new Subject(around, candidate, { ...COLD, charged: true, mended }).restVolts({ refused }, 12);
    const full = rest(worn, -0.13);
    expect(full).toBeGreaterThan(12.6);
    expect(rest(worn, 0.2)).toBeLessThan(full - 0.25);
    expect(rest({ ...worn, faults: [{ fault: "battery.sulphated", severity: 1.9 }] }, 0.2)).toBeGreaterThan(full - 0.06);
    expect(rest(worn, 0.2, ["battery"])).toBeGreaterThan(12.6);
    // How much it came in with says nothing of what it takes.
    expect(rest({ ...worn, charge: 0.1 }, 0)).toBe(rest(worn, 0));
  });

  test("the weakest cell has its share of the volts; where one is shorted the others have them all", () => {
    const around = aroundOf(sheetOf("corvane-ferrel-650"));
    const weakest = (faults: SetFault[]): number =>
      new Subject(around, { faults, charge: 1, early: true, fuse: 1, alwaysLit: false }, COLD).weakestCell({}, 12);
    expect(weakest([])).toBeCloseTo(2.12, 1);
    expect(weakest([{ fault: "battery.shorted-cell", severity: 0.5 }])).toBeCloseTo(1.06, 1);
    expect(weakest([{ fault: "battery.shorted-cell", severity: 1 }])).toBe(0);
  });
});

describe("scales", () => {
  test.each<[TestId, number]>([
    ["charge.volts", 13.8],
    ["battery.cell", 1.6],
    ["stator.acVolts", 61.5],
    ["stator.toGround", 2300],
    ["drain.current", 85],
    ["stator.legDrop", 2.5],
    ["regulator.ground", 0.2],
  ])("%s goes onto its scale and back", (id, value) => expect(offScale(id, onScale(id, value))).toBeCloseTo(value, 6));

  test("a coarse meter's ohms are noisier, and never without noise", () => {
    expect(noiseOf("stator.resistance", 0.3, 0.1)).toBeGreaterThan(noiseOf("stator.resistance", 0.3, 0.01));
    expect(noiseOf("regulator.ground", -1, 0.1)).toBeGreaterThan(noiseOf("regulator.ground", -1, 0.01));
    expect(noiseOf("charge.volts", 14, 0.1)).toBeGreaterThan(0);
  });

  test("words come with the catalogue's list, and their odds add up to one", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const subject = new Subject(
      aroundOf(sheet),
      { faults: [{ fault: "wiring.leg-burnt", at: "2", severity: 4 }], charge: 0.9, early: false, fuse: 1, alwaysLit: false },
      COLD,
    );
    for (const step of weighedSteps(sheet)) {
      if (!isWorded(step.test)) continue;
      const seen = predict(subject, lookOf(step), {});
      if (!("words" in seen)) throw new Error(step.test);
      expect(seen.words).toHaveLength(wordsOf(step.test).length);
      expect(seen.words.reduce((sum, word) => sum + word, 0)).toBeCloseTo(1, 9);
    }
  });
});

describe("looks", () => {
  const sheet = sheetOf("corvane-ferrel-650");
  const look = (over: object) => lookOfReading({ id: "x", test: "charge.volts", value: 1, ...over } as never, sheet);

  test("readings without weight have none", () => {
    expect(look({ test: "drain.connectorParted" })).toBeUndefined();
  });

  test("unloaded AC at another speed is scaled to the sheet's; charging volts are not", () => {
    expect(look({ test: "stator.acVolts", at: "1-2", rpm: 4000 })).toMatchObject({ factor: 1.25, look: { step: { rpm: 5000 } } });
    expect(look({ test: "stator.acVolts", at: "1-2", rpm: 1400 })).toMatchObject({ look: { step: { rpm: "idle" } } });
    expect(look({ rpm: 3050 })).toMatchObject({ factor: 1, look: { step: { rpm: 3000, loads: "normal" } } });
    expect(look({ rpm: 4900 })).toMatchObject({ look: { step: { rpm: 5000 } } });
  });

  test("a pair read the other way round is the same pair", () => {
    expect(look({ test: "stator.resistance", at: "2-1" })?.look.key).toBe(look({ test: "stator.resistance", at: "1-2" })?.look.key);
  });

  test("before and after a repair, charged and not, hot and cold are different looks", () => {
    const keys = [{}, { afterRepair: true, mended: ["stator"] }, { charged: true }, { hot: true }].map((over) => look({ rpm: "idle", ...over })?.look.key);
    expect(new Set(keys).size).toBe(4);
  });

  test.each(["tidewright-sound-40", "corvane-ferrel-650", "brannoch-fell-850", "mossgate-cloister-18"])(
    "a tachometer's word is likely where the circuit gives it, on the %s",
    (id) => {
      const counting: Sheet = { ...sheetOf(id), tach: leadsOf(sheetOf(id))[0] as string };
      const around = { ...aroundOf(sheetOf(id)), sheet: counting };
      const [step] = stepsOf(testOf("inspect.tach"), counting) as [Step];
      const unlikely: string[] = [];
      for (const { id: fault } of FAULTS) {
        if (unfitReason(fault, counting) || fault.endsWith("hot")) continue;
        for (const at of DEFECTS[fault].at ? placesOf(fault, counting).slice(0, 4) : [undefined]) {
          const faults = middling(fault, at === undefined ? [] : [at], counting);
          const said = simulateStep(counting, conditionOf(faults, { charge: 0.8 }), step, METER).value;
          const seen = predict(new Subject(around, { faults, charge: 0.8, early: true, fuse: 1, alwaysLit: false }, COLD), lookOf(step), {});
          const odds = "words" in seen ? (seen.words[wordsOf("inspect.tach").indexOf(String(said))] ?? 0) : 0;
          if (odds < 0.15) unlikely.push(`${fault} ${at ?? ""}: ${said}, thought of with ${odds}`);
        }
      }
      expect(unlikely).toEqual([]);
    },
  );

  test("every step that may be asked for is one of the catalogue's own", () => {
    for (const step of weighedSteps(sheet)) expect(testOf(step.test).id).toBe(step.test);
  });
});

describe("what a generator has to spare", () => {
  const sheet = sheetOf("corvane-ferrel-650");
  const around = aroundOf(sheet);
  const running = (faults: SetFault[]) => new Subject(around, { faults, charge: 0.8, early: true, fuse: 1, alwaysLit: false }, COLD);
  const CASES: [string, SetFault[], "idle" | number][] = [
    ["a sound machine under all loads", [], 5000],
    ["a sound machine at idle", [], "idle"],
    ["a winding open", [{ fault: "stator.winding-open", at: "1" }], 5000],
    ["a winding open, at idle", [{ fault: "stator.winding-open", at: "1" }], "idle"],
    ["weak magnets", [{ fault: "rotor.weak", severity: 0.4 }], 5000],
    ["a burnt pin", [{ fault: "wiring.leg-burnt", at: "2", severity: 100 }], 5000],
  ];

  test.each(CASES)("%s: weaker by just that, the unit only just holds its volts; weaker still, it no longer does", (_, faults, rpm) => {
    const subject = running(faults);
    const look = lookOf({ test: "charge.volts", rpm, loads: rpm === "idle" ? "normal" : "all" });
    const shown = (emf: number) => {
      const seen = predict(subject, look, { emf });
      if ("words" in seen) throw new Error("charging volts are worded");
      return seen;
    };
    const { spare, held } = shown(0);
    expect(Math.abs(spare as number)).toBeLessThan(2.5);
    expect(shown(0.05 - (spare as number)).at).toBeCloseTo(held as number, 1);
    expect(shown(-0.3 - (spare as number)).at).toBeLessThan((held as number) - 0.1);
    // Stronger magnets add to it as they stand.
    expect(shown(0.1).spare).toBeCloseTo((spare as number) + 0.1, 1);
  });

  test("less is spared under more loads, and a unit that holds nothing spares nothing", () => {
    const spareOf = (loads: "off" | "normal" | "all", faults: SetFault[] = []) => {
      const seen = predict(running(faults), lookOf({ test: "charge.volts", rpm: 5000, loads }), {});
      return "words" in seen ? undefined : seen.spare;
    };
    expect(spareOf("off")).toBeGreaterThan(spareOf("normal") as number);
    expect(spareOf("normal")).toBeGreaterThan(spareOf("all") as number);
    expect(spareOf("all", [{ fault: "regulator.never-regulates" }])).toBeNaN();
  });
});

test("a unit that holds too low takes nothing out of the battery", () => {
  const sheet = sheetOf("corvane-ferrel-650");
  const run = (severity: number) =>
    new Subject(aroundOf(sheet), { faults: [{ fault: "regulator.set-low", severity }], charge: 0.9, early: true, fuse: 1, alwaysLit: false }, COLD).work(
      5000,
      "normal",
      {},
    );
  const rest = new Subject(aroundOf(sheet), { faults: [{ fault: "regulator.no-output" }], charge: 0.9, early: true, fuse: 1, alwaysLit: false }, COLD).work(
    5000,
    "normal",
    {},
  );
  expect(run(3.5).volts).toBeCloseTo(rest.volts, 1);
  expect(run(1).volts).toBeGreaterThan(rest.volts + 0.5);
});

test("where the probe sits is a look of its own only where it is not the test's usual place", () => {
  const sheet = sheetOf("corvane-ferrel-650");
  const key = (reading: { test: TestId; touched?: "post" | "lug" }) => lookOfReading({ id: "r", value: 10, ...reading }, sheet)?.look.key;
  expect(key({ test: "battery.crank", touched: "lug" })).toBe(key({ test: "battery.crank" }));
  expect(key({ test: "battery.crank", touched: "post" })).not.toBe(key({ test: "battery.crank" }));
  expect(key({ test: "battery.load", touched: "post" })).toBe(key({ test: "battery.load" }));
  expect(key({ test: "battery.load", touched: "lug" })).not.toBe(key({ test: "battery.load" }));
});

test("a misread ohms beyond what windings have could be anything up to itself, volts and small ohms anything in their range", () => {
  const { range } = gaugeOf("stator.resistance");
  expect([0.3, range, 25].map((ohms) => misreadRange("stator.resistance", ohms))).toEqual([range, range, 25]);
  expect(misreadRange("charge.volts", 14.2)).toBe(gaugeOf("charge.volts").range);
});
