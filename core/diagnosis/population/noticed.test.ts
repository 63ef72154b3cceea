import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import type { SetFault } from "../../machine/defects";
import { unlistedSheet } from "../../machine/unlisted";
import type { Reading } from "../../procedure/step";
import { type Advice, advise } from "../advice";
import { NO_HISTORY } from "./hypotheses";
import { lookOf } from "./look";
import { noticedIn } from "./noticed";

type Written = Omit<Reading, "id">;
const LISTED = sheetOf("ostrel-burro-520");
const UNLISTED = unlistedSheet("three-phase", 12);

/** What is never below the least share, nor above what nobody overlooks. */
const bounds = (shares: Float64Array): [number, number] => [Math.min(...shares), Math.max(...shares)];

describe("of faults that show nowhere few are brought in", () => {
  const population = populationOf(LISTED);
  const noticed = noticedIn(population, []);
  const meanOf = (wanted: (faults: readonly SetFault[]) => boolean): number => {
    const among = [...noticed].filter((_, i) => wanted((population.particles[i] as (typeof population.particles)[number]).candidate.faults));
    expect(among.length).toBeGreaterThan(0);
    return among.reduce((sum, share) => sum + share, 0) / among.length;
  };

  test("a winding that touches over kilohms counts for less than one that touches hard; a dead unit, a drain, a flat battery count in full", () => {
    expect(bounds(noticed)).toEqual([0.3, 1]);
    const touches = (from: number, to: number): number =>
      meanOf(
        ([first, second]) => first?.fault === "stator.winding-grounded" && !second && (first.severity as number) >= from && (first.severity as number) < to,
      );
    expect(touches(100, 1e6)).toBeLessThan(0.4);
    expect(touches(0, 0.1)).toBeGreaterThan(touches(100, 1e6));
    for (const fault of ["regulator.no-output", "regulator.never-regulates", "battery.discharged"])
      expect(meanOf(([first]) => first?.fault === fault)).toBeGreaterThan(0.9);
    expect(meanOf(([first, second]) => first?.fault === "loads.parasitic" && !second && (first.severity as number) > 100)).toBe(1);
    expect(meanOf((faults) => faults.length === 0)).toBe(1);
  });

  test("what was read stands for what would be shown: right volts make a symptom of no charging fault, low ones of all", () => {
    const run = (loads: "normal" | "all", at: number) => ({ look: lookOf({ test: "charge.volts", rpm: LISTED.testRpm, loads }), at });
    const dead = [...population.particles.keys()].filter((i) => population.particles[i]?.candidate.faults[0]?.fault === "regulator.no-output");
    const idle = { look: lookOf({ test: "charge.volts", rpm: "idle", loads: "normal" }), at: 13.6 };
    const hot = { look: lookOf({ test: "charge.volts", rpm: LISTED.testRpm, loads: "normal" }, { hot: true }), at: 14.2 };
    const right = noticedIn(population, [run("normal", 14.2), run("all", 14), idle, hot]);
    for (const i of dead.filter((particle) => population.particles[particle]?.candidate.faults.length === 1)) expect(right[i]).toBeLessThan(0.5);
    const low = noticedIn(population, [run("all", 12.4)]);
    expect(bounds(low)).toEqual([1, 1]);
    // A figure that is no figure tells nothing.
    expect(noticedIn(population, [run("all", Number.NaN)])).toEqual(noticed);
  });

  test("a part that is brought in by itself comes for being suspected", () => {
    expect(bounds(noticedIn(populationOf({ ...UNLISTED, loose: "stator" }), []))).toEqual([1, 1]);
  });
});

describe.each([
  ["with a sheet", LISTED],
  ["without a sheet", UNLISTED],
])("volts that are right, %s", (_, sheet) => {
  const run = (loads: "off" | "normal" | "all", value: number): Written => ({ test: "charge.volts", rpm: sheet.testRpm, loads, value });
  const FINE: Written[] = [
    { test: "battery.rest", value: 12.6 },
    { test: "battery.crank", value: 10.3 },
    run("off", 14.3),
    run("normal", 14.2),
    run("all", 14),
    { test: "charge.volts", rpm: "idle", loads: "normal", value: 13.5 },
  ];
  const advised = (complaint: string[], ...more: Written[]): Advice =>
    advise(populationOf(sheet), jobFacts([...FINE, ...more], { history: { ...NO_HISTORY, complaint } }));
  const oddsOf = ({ parts }: Advice, part: string): number => parts.find(({ what }) => what === part)?.odds ?? 0;

  test("flat in the morning: a draw leads, never the stator", () => {
    const advice = advised(["flat-overnight"]);
    expect(advice.parts[0]?.what).toBe("loads");
    expect(oddsOf(advice, "stator")).toBeLessThan(0.15);
  });

  test("no part leads, and no plug of the stator's is parted next", () => {
    const advice = advised([]);
    expect(advice.sets[0]?.what).toBe("");
    expect(advice.next[0]?.step.test).not.toMatch(/^stator\./);
  });

  test("a fall of half a volt from no load to every load is a unit's own", () => {
    const falls = advise(populationOf(sheet), jobFacts([...FINE.slice(0, 2), run("off", 14.4), run("normal", 14.15), run("all", 13.9)]));
    expect(falls.sets[0]?.what).toBe("");
    expect(oddsOf(falls, "wiring")).toBeLessThan(0.2);
  });
});

test("a field is not fed in full past its regulator while the machine carries its loads", () => {
  const sheet = sheetOf("tidewright-farway-29");
  const run = (loads: "normal" | "all", value: number): Written => ({ test: "charge.volts", rpm: sheet.testRpm, loads, value });
  const asked = (...readings: Written[]): boolean => advise(populationOf(sheet), jobFacts(readings)).next.some(({ step }) => step.test === "field.fullField");
  const battery: Written[] = [
    { test: "battery.rest", value: 12.6 },
    { test: "battery.crank", value: 10.2 },
  ];
  expect(asked(...battery, run("normal", 14.2), run("all", 13.9))).toBe(false);
  expect(asked(...battery, run("normal", 12.2), run("all", 11.9))).toBe(true);
});
