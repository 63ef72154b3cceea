import { beforeEach, describe, expect, test } from "@jest/globals";
import { seedDemo } from "../../demo/workshop";
import type { Store } from "../../store/store";
import { openStore } from "../../tests/support/store";
import { type JobEntry, newId } from "./entry";
import { takeIn } from "./intake.server";
import { keepEntry } from "./keep.server";
import type { Sent } from "./outbox";
import { viewOf } from "./view";

const NOW = new Date("2026-06-01T10:00:00Z");
let store: Store;
let jobId: number;

beforeEach(() => {
  store = openStore();
  seedDemo(store, NOW);
  jobId = store.jobs.listOpen(20, 0).find((job) => job.unitTag === "SK-121")?.id ?? 0;
});

const entry = (value: unknown, more: Record<string, unknown> = {}) => ({
  kind: "reading",
  reading: { id: "entry-0001", test: "battery.rest", value, takenAt: NOW.toISOString(), ...more },
});
const readings = () => store.jobs.readings.of(jobId);

describe("the door to the store", () => {
  test("keeps a reading once, however often it is sent", async () => {
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toEqual({ kept: true });
    expect(readings()).toHaveLength(1);
  });

  test("ohms carry the lead zero of the job", async () => {
    await keepEntry(store, jobId, entry(0.35, { test: "stator.resistance", at: "1-2" }), NOW);
    expect(readings()[0]).toMatchObject({ raw: true, leadOhms: 0.15 });
  });

  test("a meter with leads and a last digit of its own keeps them, and that it was the second one", async () => {
    const own = { leadOhms: 0.32, ohmsResolution: 0.01, secondMeter: true };
    expect(await keepEntry(store, jobId, entry(0.61, { test: "stator.resistance", at: "1-2", ...own }), NOW)).toEqual({ kept: true });
    expect(readings()[0]).toMatchObject({ raw: true, ...own });
    expect(await keepEntry(store, jobId, entry(12.7, { id: "entry-0002" }), NOW)).toEqual({ kept: true });
    expect(readings()[1]).not.toHaveProperty("secondMeter");
  });

  test.each<[string, unknown, string, RegExp]>([
    ["an impossible figure", entry(1e9), "value", /cannot be\. Allowed: -20/],
    ["the open line where there is none", entry("OL"), "value", /no answer here/],
    ["a word for a number", entry("lots"), "value", /not on the list/],
    ["a point the machine lacks", entry(0.3, { test: "stator.resistance", at: "1-7" }), "at", /not a point/],
    ["no speed", entry(13, { test: "charge.volts" }), "rpm", /needs the rpm/],
    ["an unknown test", entry(1, { test: "horn.volts" }), "reading.test", /./],
    ["an id that could be anything", entry(12, { id: "'; DROP TABLE readings;--" }), "reading.id", /letters, digits or hyphens/],
    ["a field too many", entry(12, { owner: "me" }), "reading", /./],
    ["nothing", undefined, "entry", /./],
    ["a skip without a reason", { kind: "skip", skip: { id: "skip-0001", step: "battery.rest", reason: "  " } }, "skip.reason", /give a reason/],
    ["a lead zero of open probes", { kind: "lead-zero", id: "zero-0001", leadOhms: 40 }, "leadOhms", /are the probes touching/],
  ])("%s is refused, named and not written", async (_what, data, field, says) => {
    const answer = await keepEntry(store, jobId, data, NOW);
    expect(answer.kept).toBe(false);
    if (!answer.kept) {
      expect(answer.field || "entry").toBe(field);
      expect(answer.error).toMatch(says);
    }
    expect(readings()).toEqual([]);
    expect(store.jobs.skips(jobId)).toEqual([]);
  });

  test("nothing is added to a closed or missing job", async () => {
    store.jobs.close(jobId, "healthy", null, NOW.toISOString());
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toMatchObject({ kept: false, error: expect.stringMatching(/closed/) });
    expect(await keepEntry(store, 4711, entry(12.7), NOW)).toMatchObject({ kept: false, error: expect.stringMatching(/no such job/) });
    expect((await keepEntry(store, Number.NaN, entry(12.7), NOW)).kept).toBe(false);
  });

  test("what was pulled for a reading and is back is kept with the job, once, whichever screen ticks it", async () => {
    const tick = { kind: "put-back", id: "back-0001", pulledFor: "reading-0001", takenAt: NOW.toISOString() };
    expect(await keepEntry(store, jobId, tick, NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, tick, NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, { ...tick, pulledFor: "reading-0002" }, NOW)).toMatchObject({ kept: false, field: "id" });
    const file = store.jobs.file(jobId);
    expect(file?.putBacks).toEqual(["reading-0001"]);
    const waiting = {
      jobId,
      tag: "",
      state: "waiting" as const,
      entry: { kind: "put-back" as const, id: "back-0002", pulledFor: "reading-0003", takenAt: NOW.toISOString() },
    };
    expect(file && viewOf(file, [waiting as never]).putBacks).toEqual(new Set(["reading-0001", "reading-0003"]));
  });

  test("the curve of a dip that a meter caught is kept once, and after a repair as of the mended machine", async () => {
    const drawn = { seconds: [0, 0.5, 1], lowest: [12.6, 9.1, 12.4], highest: [12.6, 9.1, 12.4] };
    const trace = { name: "Crank at 10:00:00, caught live", seconds: 1, rate: 20, phases: [{ phase: "crank", from: 0.4, to: 0.9, volts: 9.1 }], drawn };
    const curve = { kind: "trace", id: "trace-0001", trace, repairs: 0, takenAt: NOW.toISOString() };
    expect(await keepEntry(store, jobId, curve, NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, curve, NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, { ...curve, trace: { ...trace, name: "another" } }, NOW)).toMatchObject({ kept: false, field: "id" });
    expect(await keepEntry(store, jobId, { ...curve, id: "trace-0002", repairs: 1 }, NOW)).toEqual({ kept: true });
    expect(store.traces.of(jobId).map(({ id, afterRepair }) => [id, afterRepair])).toEqual([
      ["trace-0001", false],
      ["trace-0002", true],
    ]);
    expect(await keepEntry(store, jobId, { ...curve, id: "trace-0003", trace: { ...trace, drawn: { ...drawn, lowest: [12.6] } } }, NOW)).toMatchObject({
      kept: false,
      error: expect.stringMatching(/as many figures as times/),
    });
  });

  test("skips and lead zeros go through the same door", async () => {
    expect((await keepEntry(store, jobId, { kind: "skip", skip: { id: "skip-0001", step: "battery.rest", reason: "No tool for it" } }, NOW)).kept).toBe(true);
    expect((await keepEntry(store, jobId, { kind: "lead-zero", id: "zero-0001", leadOhms: 0.22, takenAt: NOW.toISOString() }, NOW)).kept).toBe(true);
    expect(store.jobs.file(jobId)).toMatchObject({ skips: [{ reason: "No tool for it" }], job: { meter: { leadOhms: 0.22 } } });
  });

  test("what was kept is told to be kept, whatever has become of its job", async () => {
    await keepEntry(store, jobId, entry(12.7), NOW);
    await keepEntry(store, jobId, { kind: "skip", skip: { id: "skip-0001", step: "battery.rest", reason: "No tool" } }, NOW);
    store.jobs.close(jobId, "healthy", null, NOW.toISOString());
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toEqual({ kept: true });
    expect(await keepEntry(store, jobId, { kind: "skip", skip: { id: "skip-0001", step: "battery.rest", reason: "No tool" } }, NOW)).toEqual({ kept: true });
  });

  test("a closed job takes what waits once it is open again", async () => {
    store.jobs.close(jobId, "healthy", null, NOW.toISOString());
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toMatchObject({ kept: false, later: true });
    store.jobs.reopen(jobId, NOW.toISOString());
    expect(await keepEntry(store, jobId, entry(12.7), NOW)).toEqual({ kept: true });
  });

  test("an id sent again with another value, test or job is refused, and what was kept stays", async () => {
    await keepEntry(store, jobId, entry(12.7), NOW);
    const other = store.jobs.listOpen(20, 0).find(({ id }) => id !== jobId)?.id ?? 0;
    for (const answer of [
      await keepEntry(store, jobId, entry(12.8), NOW),
      await keepEntry(store, jobId, entry(12.7, { test: "battery.settled" }), NOW),
      await keepEntry(store, other, entry(12.7), NOW),
      await keepEntry(store, jobId, { kind: "skip", skip: { id: "entry-0001", step: "battery.rest", reason: "x" } }, NOW),
    ])
      expect(answer).toMatchObject({ kept: false, field: "id", error: expect.stringMatching(/under this number already/) });
    expect(readings()).toMatchObject([{ value: 12.7, test: "battery.rest" }]);
  });

  test("an older lead zero that arrives late takes nothing from a newer one", async () => {
    const zero = (leadOhms: number, minutes: number) => ({
      kind: "lead-zero",
      id: `zero-000${minutes}`,
      leadOhms,
      takenAt: new Date(NOW.getTime() + 60_000 * minutes).toISOString(),
    });
    const now = () => store.jobs.find(jobId)?.meter.leadOhms;
    await keepEntry(store, jobId, zero(0.3, 5), NOW);
    expect(await keepEntry(store, jobId, zero(0.2, 1), NOW)).toEqual({ kept: true });
    expect(now()).toBe(0.3);
    await keepEntry(store, jobId, zero(0.25, 9), NOW);
    expect(now()).toBe(0.25);
  });

  test("a bench open since before a repair files what it reads after it under the mended machine", async () => {
    const at = (minutes: number) => new Date(NOW.getTime() + 60_000 * minutes).toISOString();
    await keepEntry(store, jobId, entry(9.1, { test: "battery.crank", takenAt: at(0) }), NOW);
    store.jobs.repair(jobId, { part: "battery", fault: null, found: null, done: "Battery renewed." }, at(10));
    await keepEntry(
      store,
      jobId,
      entry(8.9, { id: "entry-0002", test: "battery.crank", takenAt: at(5), supersedes: "entry-0001", supersedesWhy: "taken-again" }),
      NOW,
    );
    await keepEntry(store, jobId, entry(10.9, { id: "entry-0003", test: "battery.crank", takenAt: at(20), supersedes: "entry-0002" }), NOW);
    const [, before, after] = readings();
    expect(before).toMatchObject({ value: 8.9, supersedes: "entry-0001" });
    expect(before?.afterRepair).toBeUndefined();
    expect(after).toMatchObject({ value: 10.9, afterRepair: true, repairs: 1 });
    expect(after?.supersedes).toBeUndefined();
    const drawn = { seconds: [0, 1], lowest: [12.6, 10.9], highest: [12.6, 10.9] };
    const trace = { name: "Crank, caught live", seconds: 1, rate: 20, phases: [], drawn };
    for (const minutes of [5, 20]) await keepEntry(store, jobId, { kind: "trace", id: `trace-at-${minutes}`, trace, repairs: 0, takenAt: at(minutes) }, NOW);
    expect(store.traces.of(jobId).map(({ afterRepair }) => afterRepair)).toEqual([false, true]);
  });

  test("a reading is corrected by one of its own test only", async () => {
    await keepEntry(store, jobId, entry(12.7), NOW);
    const other = entry(10.4, { id: "entry-0002", test: "battery.crank", supersedes: "entry-0001", supersedesWhy: "mistyped" });
    expect(await keepEntry(store, jobId, other, NOW)).toMatchObject({ kept: false, field: "test", error: expect.stringMatching(/same test only/) });
    expect(readings()).toHaveLength(1);
  });

  test("a reading carries who took it", async () => {
    await keepEntry(store, jobId, entry(12.7), NOW, "Ailsa");
    expect(readings()).toMatchObject([{ value: 12.7, by: "Ailsa" }]);
  });

  test("a second correction of one reading is told so", async () => {
    await keepEntry(store, jobId, entry(21.7), NOW);
    expect((await keepEntry(store, jobId, entry(12.7, { id: "entry-0002", supersedes: "entry-0001", supersedesWhy: "mistyped" }), NOW)).kept).toBe(true);
    expect(await keepEntry(store, jobId, entry(12.8, { id: "entry-0003", supersedes: "entry-0001" }), NOW)).toMatchObject({
      kept: false,
      error: expect.stringMatching(/corrected meanwhile/),
    });
  });
});

describe("a job as the screens show it", () => {
  const file = () => {
    const found = store.jobs.file(jobId);
    if (!found) throw new Error("no job");
    return found;
  };
  const sent = (jobEntry: JobEntry, state: Sent["state"] = "waiting"): Sent => ({ jobId, tag: "SK-121", entry: jobEntry, state });
  const waitingReading = (value: number, more = {}): JobEntry => ({
    kind: "reading",
    reading: { id: newId(), test: "battery.rest", value, takenAt: NOW.toISOString(), ...more },
  });

  test("counts what is still on its way, and counts it once when it has arrived", async () => {
    const jobEntry = waitingReading(12.7, { id: "entry-0001" });
    expect(viewOf(file(), [sent(jobEntry)]).judged).toHaveLength(1);
    await keepEntry(store, jobId, jobEntry, NOW);
    expect(viewOf(file(), [sent(jobEntry, "kept")]).judged).toHaveLength(1);
  });

  test("leaves refused entries out", () => {
    expect(viewOf(file(), [sent(waitingReading(12.7), "refused")]).judged).toEqual([]);
  });

  test("a correction on its way already takes the old one's place", async () => {
    await keepEntry(store, jobId, entry(21.7), NOW);
    const view = viewOf(file(), [sent(waitingReading(12.7, { supersedes: "entry-0001", supersedesWhy: "mistyped" }))]);
    expect(view.judged.map((judgedReading) => judgedReading.value)).toEqual([12.7]);
    expect(view.history).toHaveLength(2);
  });

  test("a lead zero on its way corrects what comes after", () => {
    expect(viewOf(file(), [sent({ kind: "lead-zero", id: "zero-0001", leadOhms: 0.4, takenAt: NOW.toISOString() })]).context.meter.leadOhms).toBe(0.4);
  });

  test("a skip on its way moves on to the next step", () => {
    expect(viewOf(file()).next).toEqual({ test: "inspect.terminals" });
    expect(viewOf(file(), [sent({ kind: "skip", skip: { id: "skip-0001", step: "inspect.terminals", reason: "seen" } })]).next).toEqual({
      test: "inspect.connector",
      at: "stator",
    });
  });
});

describe("taking a machine in", () => {
  const form = (fields: Record<string, string | string[]>): FormData => {
    const data = new FormData();
    for (const [name, value] of Object.entries(fields)) for (const entry of [value].flat()) data.append(name, entry);
    return data;
  };
  const jobOf = (fields: Record<string, string | string[]>) => {
    const result = takeIn(store, form(fields), NOW);
    if (!result.ok) throw new Error(JSON.stringify(result.errors));
    return store.jobs.file(result.jobId)?.job;
  };
  const errorsOf = (fields: Record<string, string | string[]>) => {
    const before = store.jobs.count();
    const result = takeIn(store, form(fields), NOW);
    expect(store.jobs.count()).toEqual(before);
    return result.ok ? {} : result.errors;
  };

  test("from the books", () => {
    expect(jobOf({ machine: "unit:SK-114", complaint: ["flat-after-ride"], words: "Again.", batteryAgeYears: "1,5", ambientC: "-3" })).toMatchObject({
      unitTag: "SK-114",
      nickname: "Skua",
      complaint: ["flat-after-ride"],
      words: "Again.",
      batteryAgeYears: 1.5,
      ambientC: -3,
      school: "harbour",
      meter: { name: "Meter 2" },
    });
  });

  test("new on a known sheet, with a tag of its own", () => {
    expect(jobOf({ machine: "sheet:corvane-linnet-125", newTag: "SK-140", nickname: "Pipit" })).toMatchObject({ unitTag: "SK-140", nickname: "Pipit" });
    expect(store.workshop.unit("SK-140")?.sheetId).toBe("corvane-linnet-125");
  });

  test("without a sheet, by family and volts", () => {
    const job = jobOf({ machine: "family:three-phase-shunt/6", nickname: "Old one" });
    expect(job).toMatchObject({ unitTag: null, nickname: "Old one", sheet: { systemVolts: 6, bands: [] } });
    expect(job?.sheet).toMatchObject({ legs: [{ wire: { base: "yellow" } }, {}, {}], unitGround: "wire" });
  });

  test("without a sheet, what eyes see of it stands on its sheet, and nothing else does", () => {
    const sheet = jobOf({ machine: "family:three-phase/12", kind: "atv", legs: "white", unitGround: "case" })?.sheet;
    expect(sheet).toMatchObject({ kind: "atv", legs: [{ wire: { base: "white" } }, { wire: { base: "white" } }, {}], unitGround: "case", winding: "unknown" });
    expect(sheet?.ratedAmps).toBeUndefined();
    expect(errorsOf({ machine: "family:three-phase/12", legs: "mauve", unitGround: "sea" })).toEqual({
      legs: "Pick a colour, or leave it open.",
      unitGround: "Pick how the unit is grounded, or leave it open.",
    });
    expect(jobOf({ machine: "family:three-phase/12", stores: "capacitor" })?.sheet.battery).toEqual({ chemistry: "capacitor" });
    expect(errorsOf({ machine: "family:field-excited/12", stores: "capacitor" })).toEqual({
      stores: expect.stringMatching(/^A machine .+ its field is fed by one\.$/),
    });
    expect(errorsOf({ machine: "family:three-phase/12", stores: "flywheel" })).toEqual({ stores: "Pick the capacitor, or leave it: it has a battery." });
  });

  test("a part of it by itself, on a copy of the sheet that says so, and later put with the machine it is of", () => {
    const job = jobOf({ machine: "sheet:corvane-linnet-125", loose: "regulator" });
    expect(job).toMatchObject({ unitTag: null, sheet: { loose: "regulator" } });
    expect(store.sheets.find("corvane-linnet-125")).not.toHaveProperty("loose");
    expect(jobOf({ machine: "family:three-phase-shunt/12", loose: "stator" })?.nickname).toBe("Loose stator");
    const id = job?.id ?? 0;
    store.jobs.join(id, "SK-133");
    expect(store.jobs.file(id)?.job.unitTag).toBe("SK-133");
    store.jobs.close(id, "healthy", null, NOW.toISOString());
    store.jobs.join(id, "SK-102");
    expect(store.jobs.file(id)?.job.unitTag).toBe("SK-133");
    expect(errorsOf({ machine: "sheet:corvane-linnet-125", loose: "generator" })).toEqual({ loose: expect.stringMatching(/^A machine of .+ give stator\.$/) });
    expect(errorsOf({ machine: "sheet:corvane-linnet-125", loose: "wheel" })).toEqual({ loose: "Pick what came in." });
  });

  test("ended at the counter by a plain cause", () => {
    const job = jobOf({ machine: "unit:SK-102", cause: ["key-left-on"], end: "yes" });
    expect(job).toMatchObject({ ending: "plain-cause", closingNote: expect.stringMatching(/Key or lights left on/) });
  });

  test("what is wrong is named by its field, and nothing is written", () => {
    expect(errorsOf({})).toHaveProperty("machine");
    expect(errorsOf({ machine: "unit:SK-999" })).toEqual({ machine: "There is no machine SK-999." });
    expect(errorsOf({ machine: "sheet:none" })).toHaveProperty("machine");
    expect(errorsOf({ machine: "rocket:1" })).toHaveProperty("machine");
    expect(errorsOf({ machine: "unit:SK-114", batteryAgeYears: "old" })).toEqual({ batteryAgeYears: "Must be a number from 0 to 50 years." });
    expect(errorsOf({ machine: "unit:SK-114", batteryAgeYears: "99" })).toEqual({ batteryAgeYears: "Must be 50 years or less." });
    expect(errorsOf({ machine: "unit:SK-114", ambientC: "200" })).toHaveProperty("ambientC");
    expect(errorsOf({ machine: "unit:SK-114", complaint: ["sings"] })).toHaveProperty("complaint");
    expect(errorsOf({ machine: "sheet:corvane-linnet-125", newTag: "SK-114" })).toEqual({ newTag: expect.stringMatching(/on another machine already/) });
    expect(errorsOf({ machine: "sheet:corvane-linnet-125", newTag: "<b>" })).toHaveProperty("newTag");
  });
});
