import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, test } from "@jest/globals";
import { conditionOf } from "../core/machine/condition";
import type { SetFault } from "../core/machine/defects";
import { ASSUMED_METER } from "../core/meter/meter";
import { simulateStep } from "../core/procedure/simulate";
import type { Step } from "../core/procedure/step";
import { DEMO_SHEETS } from "../demo/sheets";
import { Populations } from "../store/populations";
import { populationOf, sheetOf } from "../tests/support/population";
import { Consultation } from "./consultation";

interface Asked extends Step {
  hot?: boolean;
  charged?: boolean;
  why: string;
  minutes: number;
}

interface Answer {
  error?: { field: string; error: string }[];
  standing: { says: string; sets: { set: string; odds: number }[] };
  doubts: { reading: number; odds: number }[];
  next: Asked[];
  verdict?: { status: string; set: string; odds: number; fault?: string; where?: string };
  machine: string;
}

const findSheet = (id: string) => DEMO_SHEETS.find((sheet) => sheet.id === id);
const CASE = { uvrelCase: 1, machine: { sheet: "corvane-ferrel-650" }, readings: [] as object[] };
let dialogue: Consultation;
const say = (message: unknown): Answer => dialogue.answer(JSON.stringify(message)) as unknown as Answer;
const refusal = (message: unknown): string => (say(message).error ?? []).map(({ field, error }) => `${field}: ${error}`).join("\n");

beforeEach(() => {
  dialogue = new Consultation(findSheet, { of: populationOf });
});

/** Answers what is asked off a simulated machine until the verdict. */
function followed(faults: SetFault[], sheetId = "corvane-ferrel-650", charge = 0.6): { answer: Answer; asked: Asked[] } {
  const sheet = sheetOf(sheetId);
  const condition = conditionOf(faults, { charge });
  const asked: Asked[] = [];
  let answer = say({ open: { ...CASE, machine: { sheet: sheetId } } });
  while (!answer.verdict && asked.length < 40) {
    const next = answer.next[0] as Asked;
    asked.push(next);
    if (next.charged) condition.charge = 0.97;
    const { why: _why, minutes: _minutes, gainBits: _bits, ...reading } = next as Asked & { gainBits: number };
    answer = say({ reading: { ...reading, value: simulateStep(sheet, condition, next, { ...ASSUMED_METER, leadOhms: 0 }, { hot: next.hot === true }).value } });
  }
  return { answer, asked };
}

describe("a case is opened", () => {
  test("and is answered with a standing, what to read next and why", () => {
    const answer = say({ open: CASE });
    expect(answer.machine).toBe("corvane-ferrel-650");
    expect(answer.standing.sets.length).toBeGreaterThan(3);
    expect(answer.verdict).toBeUndefined();
    for (const { why, minutes } of answer.next) {
      expect(why).toMatch(/min.*\.$/);
      expect(minutes).toBeGreaterThan(0);
    }
  });

  test("with readings of its own, which count as if they had been given one by one", () => {
    const readings = [
      { test: "battery.rest", value: 12.4 },
      { test: "stator.toGround", at: "2", value: 3 },
    ];
    const whole = say({ open: { ...CASE, readings } });
    say({ open: CASE });
    for (const reading of readings) say({ reading });
    expect(say({ skip: { test: "battery.load" } }).standing).toEqual(whole.standing);
    expect(whole.standing.sets[0]?.set).toContain("stator");
  });

  test("anew: nothing is left of the one before", () => {
    const fresh = say({ open: CASE });
    say({ reading: { test: "stator.toGround", at: "2", value: 3 } });
    say({ skip: { test: "battery.rest" } });
    say({ repaired: ["stator"] });
    expect(say({ open: CASE })).toEqual(fresh);
  });

  test("with what the owner says, which leans the odds before the first reading", () => {
    const odds = (open: object): number => say({ open }).standing.sets.find(({ set }) => set === "loads")?.odds ?? 0;
    expect(odds({ ...CASE, complaint: ["flat-overnight"] })).toBeGreaterThan(odds(CASE));
  });
});

describe("followed to its verdict", () => {
  test.each<[string, SetFault, string]>([
    ["corvane-ferrel-650", { fault: "regulator.no-output" }, "regulator"],
    ["ostrel-burro-520", { fault: "wiring.output-resistance", severity: 0.3 }, "wiring"],
    ["brannoch-fell-850", { fault: "stator.winding-open", at: "2" }, "stator"],
    ["brannoch-fell-850", { fault: "stator.turns-shorted", at: "2", severity: 0.5 }, "stator"],
  ])("on the %s: %j", (sheetId, fault, set) => {
    const { answer, asked } = followed([fault], sheetId);
    expect(answer.verdict).toMatchObject({ set, fault: fault.fault });
    expect(answer.verdict?.odds).toBeGreaterThan(0.5);
    expect(asked.length).toBeLessThan(25);
    // Nothing is asked for twice but the one reading on which all hangs, and that is said.
    const fresh = asked.filter(({ why }) => !why.startsWith("Everything hangs on this reading"));
    expect(asked.length - fresh.length).toBeLessThanOrEqual(1);
    const names = fresh.map(({ test: id, at, rpm, loads, hot, charged }) => [id, at, rpm, loads, hot, charged].join());
    expect(new Set(names).size).toBe(names.length);
  });

  test("mended, it asks for the proof, and the mended part stands aside", () => {
    const { answer } = followed([{ fault: "regulator.no-output" }]);
    expect(answer.verdict?.set).toBe("regulator");
    const after = say({ repaired: ["regulator"] });
    expect(after.verdict).toBeUndefined();
    expect(after.next.map(({ test: id }) => id).slice(0, 3)).toEqual(["battery.crank", "charge.volts", "charge.volts"]);
    expect(after.standing.sets[0]?.set).toBe("");
    // A proof that fails once ends nothing: the rest is read; twice failed, something is left to mend.
    const failed = { reading: { test: "charge.volts", rpm: 5000, loads: "all", value: 12.1 } };
    const once = say(failed);
    const cured = ({ standing }: Answer): number => standing.sets.find(({ set }) => set === "")?.odds ?? 0;
    expect(cured(once)).toBeLessThan(cured(after));
    expect(once.verdict).toBeUndefined();
    const twice = say(failed);
    expect(twice.doubts).toEqual([]);
    expect(twice.standing.sets[0]?.set).not.toBe("");
  });

  test("a reading that cannot be is doubted and may be given again", () => {
    say({ open: CASE });
    for (const [at, value] of [
      ["1-2", 61.2],
      ["2-3", 61.4],
      ["3-1", 61.1],
    ] as const)
      say({ reading: { test: "stator.acVolts", at, rpm: 5000, value } });
    for (const at of ["1", "2", "3"]) say({ reading: { test: "stator.toGround", at, value: "OL" } });
    const doubted = say({ reading: { test: "stator.acVolts", at: "1-2", rpm: "idle", value: 300 } });
    expect(doubted.doubts.map(({ reading }) => reading)).toEqual([6]);
    expect(say({ reading: { test: "stator.acVolts", at: "1-2", rpm: "idle", value: 14.6 } }).standing.sets[0]?.set).not.toBe("stator");
  });
});

describe("a line that is refused", () => {
  test.each<[string, unknown, RegExp]>([
    ["nothing open", { reading: { test: "battery.rest", value: 12.5 } }, /^open: open a case first$/],
    ["another version", { open: { ...CASE, uvrelCase: 2 } }, /^uvrelCase: must be 1$/],
    ["an unknown sheet", { open: { ...CASE, machine: { sheet: "none" } } }, /^machine\.sheet: .*none/],
    ["an unknown family", { open: { ...CASE, machine: { family: "steam" } } }, /steam/],
    ["no message", {}, /give open, reading, skip or repaired/],
    ["two at once", { skip: { test: "battery.rest" }, repaired: [] }, /give open, reading, skip or repaired/],
    ["a part that is none", { repaired: ["horn"] }, /give open, reading, skip or repaired/],
    ["a list", [], /^line: /],
  ])("says why: %s", (_what, message, says) => expect(refusal(message)).toMatch(says));

  test.each<[string, unknown, RegExp]>([
    ["an unknown test", { reading: { test: "horn.volts", value: 3 } }, /^reading\.test: “horn\.volts” is not a test/],
    ["a point the machine has not", { reading: { test: "stator.toGround", at: "9", value: 3 } }, /^reading\.at: /],
    ["an impossible value", { reading: { test: "battery.rest", value: 900 } }, /^reading\.value: .*Allowed/],
    ["no value", { reading: { test: "battery.rest" } }, /^reading\.value: must be/],
    ["a field too many", { reading: { test: "battery.rest", value: 12, mood: "good" } }, /mood/],
    ["skipping what is no test", { skip: { test: "horn.volts" } }, /^skip\.test: “horn\.volts” is not a test/],
    ["skipping at no point", { skip: { test: "regulator.diode", at: "7>B+" } }, /^skip\.at: /],
    ["skipping a running test without its speed", { skip: { test: "charge.volts" } }, /^skip\.rpm: .*needs the rpm/],
    ["a half-written line", "not a message", /^line: /],
  ])("changes nothing: %s", (_what, message, says) => {
    say({ open: CASE });
    const before = say({ reading: { test: "battery.rest", value: 12.4 } });
    expect(refusal(message)).toMatch(says);
    // Skipping what is already done asks for the same answer once more.
    expect(say({ skip: { test: "battery.rest" } })).toEqual(before);
  });

  test("says so when it is not JSON", () => {
    expect(dialogue.answer("{open")).toEqual({ error: [{ field: "line", error: "is not JSON" }] });
  });
});

describe("populations", () => {
  test("are made once a machine and temperature: five degrees make another, a name does not", () => {
    const populations = new Populations(mkdtempSync(join(tmpdir(), "uvrel-populations-")));
    const sheet = sheetOf("corvane-ferrel-650");
    const mild = populations.of(sheet, 21);
    expect(populations.of({ ...sheet, model: "Another name" }, 18)).toBe(mild);
    const cold = populations.of(sheet, -6);
    expect(cold).not.toBe(mild);
    expect(populations.of(sheet, -4)).toBe(cold);
    expect(cold.hypotheses).toEqual(mild.hypotheses);
    // The oldest goes, what was asked for last stays.
    const warm = [5, 10, 15, 25, 30].map((celsius) => populations.of(sheet, celsius));
    expect(populations.of(sheet, -6)).toBe(cold);
    expect(populations.of(sheet, 30)).toBe(warm.at(-1));
    expect(populations.of(sheet, 21)).not.toBe(mild);
  });
});

describe("what a shop has proven", () => {
  const oddsOf = (set: string, confirmed?: Record<string, number>): number =>
    say({ open: CASE, ...(confirmed ? { confirmed } : {}) }).standing.sets.find((shown) => shown.set === set)?.odds ?? 0;

  test("leans the odds before anything is read, a few repairs a little and many a lot", () => {
    const [none, few, many] = [oddsOf("regulator"), oddsOf("regulator", { "regulator.no-output": 10 }), oddsOf("regulator", { "regulator.no-output": 1000 })];
    expect(few).toBeGreaterThan(none);
    expect(many).toBeGreaterThan(few);
    expect(few - none).toBeLessThan(0.2);
    // The next case is opened without it again.
    expect(oddsOf("regulator")).toBeCloseTo(none, 6);
  });

  test("of a fault that nobody knows, or fewer than no times, is refused and opens nothing", () => {
    expect(refusal({ open: CASE, confirmed: { "regulator.haunted": 3 } })).not.toBe("");
    expect(refusal({ open: CASE, confirmed: { "regulator.no-output": -1 } })).not.toBe("");
    expect(refusal({ reading: { test: "battery.rest", value: 12.6 } })).toMatch(/^open: open a case first/);
  });
});
