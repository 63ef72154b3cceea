import { describe, expect, test } from "@jest/globals";
import type { Sheet } from "../../core/machine/sheet";
import { demoSheet } from "../../demo/sheets";
import type { JobFile } from "../../store/jobs";
import { openStore } from "../../tests/support/store";
import { cautionsThatApplied, complaintsOf, foundLines, skipTitle } from "./words";

const NOW = "2026-06-01T12:00:00.000Z";
const METER = { name: "M", leadOhms: 0.1, ohmsResolution: 0.1, trueRms: true, diodeMaxVolts: 2.5 };

/** A job of an outboard, as the store hands it out after `work`. */
function fileAfter(work: (store: ReturnType<typeof openStore>, id: number) => void, complaint: string[] = ["flat-after-ride"]): JobFile {
  const store = openStore();
  const sheet = demoSheet("tidewright-reach-90") as Sheet;
  const id = store.jobs.open(
    { unitTag: null, nickname: "Gannet", sheet, school: "harbour", meter: METER, ambientC: 12, batteryAgeYears: null, complaint, words: "" },
    NOW,
  );
  work(store, id);
  return store.jobs.file(id) as JobFile;
}

describe("what a report says", () => {
  test("what had failed is what was said when it was mended, one after the other, whatever is advised now", () => {
    const file = fileAfter((store, id) => {
      store.jobs.repair(id, { part: "battery", fault: null, found: "Battery (9 in 10, likely).", done: "x" }, NOW);
      store.jobs.repair(id, { part: "loads", fault: null, found: null, done: "x" }, NOW);
      store.jobs.repair(id, { part: "regulator", fault: null, found: "Regulator/rectifier (19 in 20, nearly sure).", done: "x" }, NOW);
    });
    expect(foundLines(file, undefined)).toEqual(["Battery (9 in 10, likely).", "Regulator/rectifier (19 in 20, nearly sure)."]);
    expect(
      foundLines(
        fileAfter(() => undefined),
        undefined,
      ),
    ).toEqual([]);
  });

  test("a plain cause is told by its question, and stays out of the complaints", () => {
    const file = fileAfter((store, id) => void store.jobs.close(id, "plain-cause", null, NOW), ["flat-overnight", "key-left-on"]);
    expect(foundLines(file, undefined)[0]).toMatch(/\? Yes\.$/);
    expect(complaintsOf(file.job)).toBe("Flat overnight");
  });

  test("cautions are those of this kind of machine, each once, and when somebody read them", () => {
    const file = fileAfter((store, id) => {
      for (const k of [1, 2])
        store.jobs.readings.keep(id, { id: `reading-000${k}`, test: "charge.volts", rpm: 3000, loads: "normal", value: 14.2, takenAt: NOW });
      store.jobs.seeCautions(id, "seen-00001", ["marine"], NOW, "Ailsa");
    });
    const cautions = cautionsThatApplied(file);
    expect(new Set(cautions.map(({ says }) => says)).size).toBe(cautions.length);
    const marine = cautions.filter(({ read }) => read !== "");
    expect(marine).toHaveLength(1);
    expect(marine[0]?.says).toMatch(/propeller|water/i);
    expect(marine[0]?.read).toMatch(/^ Read 1 June 2026, \d\d:\d\d, Ailsa\.$/);
    expect(cautionsThatApplied(fileAfter(() => undefined))).toEqual([]);
  });

  test("a skipped step goes by its title; a key of another edition by itself", () => {
    expect(skipTitle("stator.toGround~2")).toMatch(/^Leg 2/);
    expect(skipTitle("no.such~step")).toBe("no.such~step");
  });
});
