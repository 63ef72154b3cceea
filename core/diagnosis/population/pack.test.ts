import { beforeAll, describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import type { Reading } from "../../procedure/step";
import { type Advice, advise, type JobFacts } from "../advice";
import { looksOf } from "../planning/candidates";
import { MONEY_A_BIT } from "../planning/prices";
import { Weighing } from "../planning/weighing";
import { observe, Posterior } from "../posterior/posterior";
import { lineUp } from "./lineup";
import { type Look, lookOf } from "./look";
import { PackedColumns, packColumns } from "./pack";
import { Population } from "./population";

const sheet = sheetOf("corvane-ferrel-650");
const READINGS: Omit<Reading, "id">[] = [
  { test: "battery.rest", value: 12.4 },
  { test: "battery.crank", value: 10.4 },
  { test: "charge.volts", rpm: 5000, loads: "normal", value: 12.9 },
  { test: "stator.resistance", at: "1-2", value: 0.4 },
  { test: "stator.toGround", at: "2", value: "OL" },
  { test: "regulator.diode", at: "2>B+", value: "OL" },
  { test: "inspect.connector", at: "stator", value: "clean" },
];

/** A population that knows nothing but what packs of the charted one say. */
function unpacked(...packs: Uint8Array[]): { population: Population; columns: PackedColumns } {
  const lineup = lineUp(sheet);
  const columns = new PackedColumns(lineup);
  for (const pack of packs) columns.add(pack);
  return { population: new Population(lineup, columns), columns };
}

/** What reading a look is worth by a population, in money, whether or not a plan lays it out. */
function worthOf(population: Population, facts: JobFacts): (look: Look) => number {
  const posterior = new Posterior(population, population.priors(facts.history), observe(facts.readings, population, facts.meter));
  const sets = [...new Set(population.hypotheses.map(({ set }) => set))];
  const setOf = Int32Array.from(population.particles, ({ hypothesis }) => sets.indexOf(population.hypotheses[hypothesis]?.set ?? ""));
  const weighing = new Weighing(posterior, sets, setOf, { prices: facts.prices, mended: [], ohmsResolution: facts.meter.ohmsResolution });
  return (look) => {
    const { worth, bits } = weighing.value(look);
    return worth + MONEY_A_BIT * bits;
  };
}

describe("predictions in a pack", () => {
  let pack: Uint8Array;
  let charted: Population;
  beforeAll(() => {
    charted = populationOf(sheet);
    pack = packColumns(charted, looksOf(sheet, []));
  });

  test.each([0, 2, 4, 7])("%i readings come to the same odds and doubts, and next readings worth as much, as on the charts they were made from", (count) => {
    const facts = jobFacts(READINGS.slice(0, count));
    const exact = advise(charted, facts);
    const after = advise(unpacked(pack).population, facts);
    const odds = ({ parts }: Advice) => Object.fromEntries(parts.map(({ what, odds }) => [what, odds]));
    for (const [part, share] of Object.entries(odds(exact))) expect(odds(after)[part]).toBeCloseTo(share, 1.7);
    // What a reading is worth is worked out on a few particles that stand for all; which they are hangs on the last digit.
    const [worthOnCharts, worthOnPack] = [worthOf(charted, facts), worthOf(unpacked(pack).population, facts)];
    for (const { look } of [...exact.next.slice(0, 3), ...after.next.slice(0, 3)]) {
      const charts = worthOnCharts(look);
      expect(Math.abs(worthOnPack(look) - charts)).toBeLessThan(0.5 + 0.3 * charts);
    }
    expect(after.doubts.map(({ reading }) => reading)).toEqual(exact.doubts.map(({ reading }) => reading));
  });

  test("no figure is off by more than a sixteenth of a reading's noise, and none is lost", () => {
    const { columns } = unpacked(pack);
    const look = lookOf({ test: "stator.resistance", at: "2-3" });
    const [packed, exact] = [columns.column(look), charted.column(look)];
    expect(columns.has(look)).toBe(true);
    for (const [i, at] of exact.at.entries()) expect(Math.abs((packed?.at[i] ?? Number.NaN) - at)).toBeLessThanOrEqual(0.02 / 16 + 1e-12);
    for (const [i, open] of exact.open.entries()) expect(packed?.open[i]).toBeCloseTo(open, 2);
  });

  test("where a unit holds running volts, and what its generator has to spare for that, come through; what nothing holds stays unheld", () => {
    const { columns } = unpacked(pack);
    const look = lookOf({ test: "charge.volts", rpm: 5000, loads: "all" });
    const [packed, exact] = [columns.column(look)?.held, charted.column(look).held];
    if (!packed || !exact) throw new Error("charging volts are held");
    let unheld = 0;
    exact.at.forEach((at, i) => {
      if (Number.isNaN(at)) {
        unheld++;
        expect(packed.at[i]).toBeNaN();
        expect(packed.spare[i]).toBeNaN();
        return;
      }
      expect(Math.abs((packed.at[i] as number) - at)).toBeLessThan(0.01);
      expect(Math.abs((packed.spare[i] as number) - (exact.spare[i] as number))).toBeLessThan(0.002);
    });
    expect(unheld).toBeGreaterThan(0);
    expect(unheld).toBeLessThan(exact.at.length / 2);
    for (const [k, slope] of exact.slopes.entries()) expect(Math.abs((packed.slopes[k] as number) - slope)).toBeLessThan(0.002);
    expect(columns.column(lookOf({ test: "battery.crank" }))?.held).toBeUndefined();
  });

  test("a rest or a speed that no pack has is answered by the nearest; a test that none has, or a repair, by nothing", () => {
    const { population } = unpacked(pack);
    const near = (look: ReturnType<typeof lookOf>, to: ReturnType<typeof lookOf>) => expect(population.column(look).at).toEqual(population.column(to).at);
    near(lookOf({ test: "battery.rest" }, { restHours: 3 }), lookOf({ test: "battery.rest" }));
    near(lookOf({ test: "charge.volts", rpm: 4250, loads: "normal" }), lookOf({ test: "charge.volts", rpm: 5000, loads: "normal" }));
    near(lookOf({ test: "regulator.diode", at: "1>B+" }, { charged: true }), lookOf({ test: "regulator.diode", at: "1>B+" }));
    const mended = lookOf({ test: "battery.rest" }, { mended: ["stator"] });
    expect(population.knows(mended)).toBe(false);
    expect(() => population.column(mended)).toThrow("nothing is predicted for battery.rest");
    expect(advise(population, { ...jobFacts([{ test: "battery.rest", value: 12.6, mended: ["stator"] }]), mended: ["stator"] }).parts.length).toBeGreaterThan(
      0,
    );
  });

  test("several packs add up; one of another machine is refused whole", () => {
    const some = packColumns(charted, [lookOf({ test: "battery.rest" })]);
    const others = packColumns(charted, [lookOf({ test: "battery.crank" })]);
    const { population, columns } = unpacked(some, others);
    expect(
      [lookOf({ test: "battery.rest" }), lookOf({ test: "battery.crank" }), lookOf({ test: "drain.current" })].map((look) => population.knows(look)),
    ).toEqual([true, true, false]);
    expect(() => columns.add(some.subarray(0, some.length - 5))).toThrow("another machine");
    expect(population.knows(lookOf({ test: "battery.rest" }))).toBe(true);
  });
});
