import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { DEMO_SHEETS } from "../demo/sheets";
import { migrations, newFolder } from "../tests/support/store";
import { migrate } from "./migrate";
import { DATABASE_FILE, openDatabase } from "./open";
import { Store } from "./store";

test("a workshop of years before records, lessons and times were kept has them from its first start on", () => {
  const folder = newFolder();
  mkdirSync(folder, { recursive: true });
  const before = new Database(join(folder, DATABASE_FILE));
  migrate(before, migrations().slice(0, 13));
  const sheet = JSON.stringify(DEMO_SHEETS[0]);
  before.exec("INSERT INTO meters (name, lead_ohms, ohms_resolution, true_rms, diode_max_volts) VALUES ('M', 0.1, 0.1, 1, 2.5)");
  const job = before.prepare(
    `INSERT INTO jobs (nickname, sheet, school, meter, ambient_c, complaint, words, opened_at, closed_at, ending)
       VALUES ('Postie', ?, 'harbour', '{"name":"M","leadOhms":0.1,"ohmsResolution":0.1,"trueRms":true,"diodeMaxVolts":2.5}', 12, '[]', 'Dead on the quay', '2025-03-01T09:00:00.000Z', ?, ?)`,
  );
  job.run(sheet, "2025-03-01T11:00:00.000Z", "proven");
  job.run(sheet, null, null);
  const reading = before.prepare("INSERT INTO readings (id, job_id, test, number, raw, note, taken_at) VALUES (?, 1, ?, 12.5, 0, ?, ?)");
  reading.run("reading-01", "battery.rest", "herring on the terminals", "2025-03-01T09:05:00.000Z");
  reading.run("reading-02", "battery.crank", null, "2025-03-01T09:09:00.000Z");
  before.exec(
    "INSERT INTO repairs (job_id, part, fault, done, repaired_at) VALUES (1, 'regulator', 'regulator.no-output', 'Unit renewed', '2025-03-01T10:00:00.000Z')",
  );
  before.close();

  const store = new Store(openDatabase(folder, migrations()));
  for (const words of ["quay", "herring", "renewed", "ferrel"]) expect(store.records.look({ words, ending: "proven" }, 5, 0).found).toBe(1);
  expect(store.records.look({}, 5, 0).lines.map(({ partLast, ending }) => [partLast, ending])).toContainEqual(["regulator", "proven"]);
  expect(store.lessons.of(DEMO_SHEETS[0]?.family ?? "")).toMatchObject([{ fault: "regulator.no-output", times: 1, year: 2025 }]);
  expect(store.records.minutesByTest().map(({ test: id, times, minutes }) => [id, times, Math.round(minutes)])).toEqual([["battery.crank", 1, 4]]);
  expect(store.jobs.find(1)?.use).toBeNull();
  store.close();
});
