import { describe, expect, test } from "@jest/globals";
import { CATALOGUE, testOf } from "../../core/procedure/catalogue";
import { THREE_PHASE_SHEETS } from "../../demo/sheets";
import { Chance } from "./chance";
import { turnsShorted } from "./dynamo";
import { type Asked, type Faults, KINDS, SOUND } from "./kinds";
import { type Played, play, Talker } from "./player";
import { report } from "./report";
import { diodeShown, found, misread } from "./shown";
import { Machine } from "./world";

const sheet = THREE_PHASE_SHEETS[0] as (typeof THREE_PHASE_SHEETS)[number];
type Message = { open?: object; reading?: Asked & { value: unknown }; skip?: Asked; repaired?: string[] };
interface Said {
  next?: (Asked & { minutes: number })[];
  doubts?: { reading: number; odds: number }[];
  verdict?: { set: string; odds: number; status: string };
  error?: unknown;
}

/** A program that answers each message by a script, and what it was told. */
function scripted(script: (message: Message, told: readonly Message[]) => Said) {
  const told: Message[] = [];
  const say = async (message: unknown) => {
    told.push(message as Message);
    return { next: [], standing: { sets: [] }, doubts: [], ...script(message as Message, told) };
  };
  return { told, say };
}

/** The first machine of the world with so many failed parts. */
function seedWith(parts: number): number {
  const seed = Array.from({ length: 600 }, (_, n) => n).find((n) => {
    const failed = new Machine(sheet, n).parts;
    return failed.length === parts && failed[0] !== "charge";
  });
  if (seed === undefined) throw new Error(`no machine with ${parts}`);
  return seed;
}

const REST = { test: "battery.rest", minutes: 1 };
const CRANK = { test: "battery.crank", minutes: 2, charged: true };

describe("a game", () => {
  test.each([0, 1, 2])("with %i failed parts, told by one who knows: all is right", async (parts) => {
    const seed = seedWith(parts);
    const truth = [...new Machine(sheet, seed).parts].sort().join("+");
    const { say, told } = scripted(({ open, reading, repaired }) => {
      if (open) return { next: [REST, CRANK] };
      if (repaired) return { verdict: { set: "", odds: 0.97, status: "healthy" } };
      return reading?.test === "battery.rest" ? { next: [CRANK] } : { verdict: { set: truth, odds: 0.96, status: "found" } };
    });
    const played = await play({ say }, sheet, seed);
    expect(played).toMatchObject({ seed, sheet: sheet.id, odds: 0.96, firstRight: true, readings: 2, minutes: 3, repairs: parts > 0 ? 1 : 0 });
    expect([...played.said].sort().join("+")).toBe(truth);
    expect(played.answers.length).toBe(told.length - 1);
    expect(told[0]?.open).toMatchObject({ uvrelCase: 1, machine: { sheet: sheet.id }, readings: [] });
    // What is told of a reading is where and how it was taken, and its value.
    expect(told[2]?.reading).toEqual({ test: "battery.crank", charged: true, value: expect.anything() });
  });

  test("told wrongly, the wrong part is bought and the fault stays", async () => {
    const seed = seedWith(1);
    const [truth] = new Machine(sheet, seed).parts;
    const wrong = truth === "starter" ? "rotor" : "starter";
    const { say } = scripted(({ open }) => (open ? { next: [REST] } : { verdict: { set: wrong, odds: 0.7, status: "narrowed" } }));
    expect(await play({ say }, sheet, seed)).toMatchObject({ said: [wrong], firstRight: false, repairs: 1 });
  });

  test("a doubted reading is taken once more, and not for ever", async () => {
    const { say, told } = scripted(({ open }, all) => ({
      next: open || all.length < 4 ? [REST] : [],
      doubts: open ? [] : [{ reading: 0, odds: 0.9 }],
    }));
    const played = await play({ say }, sheet, 3);
    expect(told.filter(({ reading }) => reading)).toHaveLength(3);
    expect(played.doubted).toBe(1);
    expect(played.firstRight).toBe(false);
  });

  test("a refused reading is looked at again, and skipped when it goes on being refused", async () => {
    const { say, told } = scripted(({ open, skip }) => (open ? { next: [CRANK] } : skip ? {} : { error: [{ field: "reading.value", error: "no" }] }));
    await play({ say }, sheet, 3);
    expect(told.filter(({ reading }) => reading)).toHaveLength(5);
    expect(told.at(-1)?.skip).toEqual({ test: "battery.crank" });
  });

  test("ends: at sixty readings, and after three repairs", async () => {
    const endless = scripted(() => ({ next: [REST] }));
    expect((await play(endless, sheet, 5)).readings).toBe(60);
    const parts = ["starter", "rotor", "loads", "wiring", "stator"];
    const greedy = scripted((_, all) => ({ verdict: { set: parts[all.length % parts.length] as string, odds: 0.6, status: "narrowed" } }));
    expect((await play(greedy, sheet, 5)).repairs).toBe(3);
  });
});

describe("a program spoken to in lines", () => {
  const echo = `require("node:readline").createInterface({ input: process.stdin }).on("line", (line) => {
    const message = JSON.parse(line);
    console.log(JSON.stringify(message.bad ? { error: "bad" } : { got: message }));
  });`;

  test("answers in the order it was asked; what is refused is told, a refused reading is an answer", async () => {
    const talker = new Talker(process.execPath, ["-e", echo]);
    const answers = await Promise.all([talker.say({ n: 1 }), talker.say({ n: 2 })]);
    expect(answers).toEqual([{ got: { n: 1 } }, { got: { n: 2 } }]);
    await expect(talker.say({ bad: true })).rejects.toThrow(/was refused: "bad"/);
    expect(await talker.say({ bad: true, reading: { test: "x" } })).toEqual({ error: "bad" });
    talker.end();
  });
});

describe("what its mechanics read", () => {
  const withFault = (change: (faults: Faults) => void): Faults => {
    const faults = SOUND();
    change(faults);
    return faults;
  };
  const diode = (at: string, faults: Faults, family = "three-phase-shunt"): number | string =>
    diodeShown(at, faults, new Chance(7), { ...sheet, family }, 20, 2.6);

  test("a sound diode conducts one way, an open one neither, a shorted one both", () => {
    expect(diode("1>B+", SOUND())).toBeCloseTo(0.52, 1);
    expect(diode("B+>1", SOUND())).toBe("OL");
    const open = withFault(({ lower }) => lower.fill("open"));
    for (const at of ["B->2", "2>B-"]) expect(diode(at, open)).toBe("OL");
    const short = withFault(({ upper }) => upper.fill("short"));
    for (const at of ["3>B+", "B+>3"]) expect(diode(at, short)).toBeLessThan(0.05);
  });

  test("turns shorted in a coil take more of its volts under way than their share, and of its ohms at rest just that", () => {
    const coil = { peak: 40, phase: 0, ohms: 0.3, henries: 4e-4 };
    expect(turnsShorted(coil, 0.2, 0)).toMatchObject({ ohms: 0.3 * 0.8, phase: 0 });
    const under = turnsShorted(coil, 0.2, 4000);
    expect(under.peak).toBeLessThan(0.8 * coil.peak);
    expect(under.henries).toBeLessThan(coil.henries);
  });

  test("a series unit's switched half shows the open line, sound or open", () => {
    expect(diode("1>B+", SOUND(), "three-phase-series")).toBe("OL");
    expect(diode("B->1", SOUND(), "three-phase-series")).toBeCloseTo(0.52, 1);
  });

  test("a misread is another value within what a display can show, or the open line", () => {
    const chance = new Chance(11);
    for (let n = 0; n < 300; n++) {
      const volts = misread({ test: "charge.volts" }, 14.2, chance);
      expect(volts).toBeLessThanOrEqual(60);
      expect(volts).toBeGreaterThanOrEqual(-5);
      const ohms = misread({ test: "stator.resistance", at: "1-2" }, 0.3, chance);
      expect(ohms === "OL" || (ohms as number) >= 0).toBe(true);
      expect(["clean", "green"]).toContain(misread({ test: "inspect.connector" }, "melted", chance));
    }
  });

  test("what is found by eye is a word of the test's own list, whatever has failed", () => {
    for (const kind of KINDS) {
      const faults = SOUND();
      kind.set(faults, new Chance(3), 1);
      for (const { id } of CATALOGUE) {
        const { choices, points } = testOf(id);
        // None of this world's machines has a tachometer on one of its wires.
        if (!id.startsWith("inspect.") || !choices || points === "tach") continue;
        for (const at of points === "place" ? ["stator", "output"] : [undefined]) {
          const word = found({ test: id, ...(at ? { at } : {}) }, faults, new Chance(5), "agm");
          expect([kind.name, id, choices.includes(word)]).toEqual([kind.name, id, true]);
        }
      }
    }
  });
});

test("the report has a row for the engine and each flowchart, the reliability table, and what was taken for what", () => {
  const played: Played = {
    seed: 1,
    sheet: sheet.id,
    truth: ["stator"],
    causes: ["short turns"],
    said: ["stator"],
    odds: 0.98,
    firstRight: true,
    readings: 10,
    minutes: 20,
    hands: { minutes: 15, starts: 1, plugMoves: 2, restAfterRun: 0, foreignTools: 0, calmStart: true },
    told: false,
    misreads: 1,
    doubted: 1,
    doubtedRightly: 1,
    answers: [10, 30, 20],
    repairs: 1,
  };
  const missed: Played = { ...played, seed: 2, said: ["regulator"], firstRight: false, odds: 0.6 };
  const text = report([played, missed], [{ order: "harbour", played: [missed] }], { cases: 2, seed: 1 });
  expect(text).toMatch(/^2 machines, seeds 1 to 2$/m);
  expect(text).toMatch(/^\| flowchart, harbour \| 0\.000 /m);
  expect(text).toMatch(/^\| engine \| 0\.500 \| 0\.500 /m);
  expect(text).toMatch(/^\| 0\.97–1\.00 \| 1 \| 0\.980 \| 1\.000 \|$/m);
  expect(text).toMatch(/right when 0\.97 and more is stated: 1\.000/);
  expect(text).toMatch(/misreads: 2, doubted 2, of them rightly 2 \(found 1\.000, precision 1\.000\)/);
  expect(text).toMatch(/answers: median 20\.0 ms, 95th 30\.0 ms/);
  expect(text).toMatch(/^\| short turns \| 2 \| 0\.500 \| regulator 1 \|$/m);
});
