import { describe, expect, jest, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { pretendFamily } from "../tests/support/pretendFamily";

// One line more in the list of families, and nothing else, before the program is loaded.
const { FAMILIES } = await import("../core/machine/families/all");
const all = [...FAMILIES, pretendFamily];
jest.unstable_mockModule("../core/machine/families/all", () => ({ FAMILIES: all }));

const { parseSheet } = await import("../core/machine/sheet");
const { unlistedSheet } = await import("../core/machine/unlisted");
const { CATALOGUE, testOf } = await import("../core/procedure/catalogue");
const { stepsOf } = await import("../core/procedure/step");
const { stepProblem } = await import("../core/procedure/entry");
const { runList } = await import("../core/procedure/runlist");
const { judgeAll } = await import("../core/procedure/judge");
const { schoolOf } = await import("../core/procedure/schools");
const { simulateStep } = await import("../core/procedure/simulate");
const { conditionOf } = await import("../core/machine/condition");
const { Loom } = await import("./loom/Loom");
const { comparable } = await import("../core/rig/changed");
const { drawChart, tasksOf } = await import("../core/diagnosis/population/charts");
const { chartSheetsOf } = await import("../core/diagnosis/population/builds");
const { chartedPopulation } = await import("../core/diagnosis/population/charted");
const { advise } = await import("../core/diagnosis/advice");
const { NO_HISTORY } = await import("../core/diagnosis/population/hypotheses");
const { ASSUMED_PRICES } = await import("../core/diagnosis/planning/prices");
const { USUAL_TOOLS } = await import("../core/procedure/tools");

const METER = { name: "m", leadOhms: 0, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
const parsed = parseSheet({
  ...unlistedSheet("one-wire", 12, "outboard"),
  id: "tidewright-oar-4",
  maker: "Tidewright",
  model: "Oar 4",
  ratedAmps: 6,
  loadAmps: { normal: 1.2, all: 2.4 },
  battery: { chemistry: "flooded", ah: 40, cca: 300 },
  idleRpm: 900,
  testRpm: 4000,
  polePairs: 6,
  bands: [
    { test: "stator.resistance", at: "W", low: 0.3, high: 0.5 },
    { test: "stator.acVolts", at: "W", rpm: 4000, low: 24, high: 34 },
    { test: "charge.volts", rpm: 4000, low: 13.5, high: 14.9 },
  ],
});
if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
const { sheet } = parsed;
const harbour = schoolOf("harbour");

describe("an eleventh family, by one file and one line", () => {
  test("has its sheet, which says what wires it has", () => {
    expect(sheet.legs.map(({ id }) => id)).toEqual(["W"]);
    const wrong = parseSheet({ ...sheet, legs: [{ id: "X", pin: "1", wire: { base: "red" } }] });
    expect(wrong.ok ? "" : wrong.problems[0]?.error).toMatch(/“One wire, one coil to the engine” are W/);
  });

  test("has its run list, its points and its bands, and a sound machine is in all of them", () => {
    expect(stepsOf(testOf("stator.resistance"), sheet)).toEqual([{ test: "stator.resistance", at: "W" }]);
    expect(stepsOf(testOf("stator.toGround"), sheet)).toEqual([]);
    expect(stepProblem({ test: "stator.resistance", at: "1-2" }, sheet)?.error).toMatch(/Allowed: W/);
    const readings = runList(sheet, harbour, [], [])
      .flatMap(({ lines }) => lines)
      .map(({ step }, i) => ({ ...step, id: String(i), value: simulateStep(sheet, conditionOf([], { charge: 0.97 }), step, METER, { restHours: 12 }).value }));
    expect(readings.length).toBeGreaterThan(15);
    const judged = judgeAll(readings, { sheet, school: harbour, meter: METER, ambientC: 20 });
    expect(
      judged.filter((judgedReading) => !["in", "info"].includes(judgedReading.judged)).map(({ reading, value }) => [reading.test, reading.at, value]),
    ).toEqual([]);
  });

  test("is drawn on the loom and compared on the rig", () => {
    for (const step of CATALOGUE.flatMap((row) => stepsOf(row, sheet))) {
      const markup = renderToStaticMarkup(<Loom sheet={sheet} marks={{}} step={step} />);
      expect(markup).not.toMatch(/NaN|undefined|Infinity/);
    }
    expect(comparable(sheet).length).toBeGreaterThan(20);
  });

  test("has its odds: a unit that lets nothing through is found", () => {
    const atlas = JSON.parse(JSON.stringify(Object.fromEntries(tasksOf(sheet).map((task) => [task.key, drawChart(sheet, task)]))));
    const population = chartedPopulation(
      sheet,
      chartSheetsOf(sheet).map(() => atlas),
      20,
    );
    const condition = conditionOf([{ fault: "regulator.diode-open", at: "W>B+" }], { charge: 0.7 });
    const tests = ["battery.crank", "charge.volts", "stator.resistance", "stator.acVolts", "regulator.diode", "regulator.ground", "regulator.feed"] as const;
    const readings = tests
      .flatMap((id) => stepsOf(testOf(id), sheet))
      .map((step, i) => ({ ...step, id: String(i), value: simulateStep(sheet, condition, step, METER).value }));
    const advice = advise(population, {
      readings,
      meter: METER,
      prices: ASSUMED_PRICES,
      history: NO_HISTORY,
      mended: [],
      skipped: [],
      tools: USUAL_TOOLS,
      restHours: harbour.restHours,
    });
    expect(advice.parts[0]).toMatchObject({ what: "regulator" });
    expect(advice.parts[0]?.odds).toBeGreaterThan(0.8);
  });
});
