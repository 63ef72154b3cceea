import { once } from "node:events";
import { createWriteStream, mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { Piscina } from "piscina";
import { CATALOGUE } from "../core/procedure/catalogue";
import { type Step, stepsOf } from "../core/procedure/step";
import { DEMO_SHEETS } from "../demo/sheets";
import { writeTable } from "../formats/tableOut";
import { TABLE_FORMAT_NAMES, TABLES } from "../formats/tables";
import { exportRows } from "../store/exporting";
import { MIGRATIONS } from "../store/migrations";
import { DATABASE_FILE, openDatabase } from "../store/open";
import type { Question } from "../store/records";
import { Store } from "../store/store";
import { Chance } from "./diagnosis/chance";
import { writeBlock } from "./document";

/** The records of ten years of a chain: 100,000 jobs, 5 million readings. Looked through, counted, exported, backed up while work goes on. */

const JOBS = Number(process.argv[2] ?? 100_000);
const EACH = 50;
const ROUNDS = 60;
const BOUNDS = { search: 60, charts: 150, export: 60, backup: 20, keep: 20 } as const;
const FAULTS: readonly (readonly [part: string, fault: string])[] = [
  ["regulator", "regulator.no-output"],
  ["stator", "stator.winding-open"],
  ["battery", "battery.sulphated"],
  ["wiring", "wiring.output-resistance"],
  ["loads", "loads.parasitic"],
];
const WORDS = ["flat", "dim", "boiled", "slow", "clicks", "squeals", "harbour", "moor", "ferry", "regatta", "frost", "lamp", "grips", "winch", "plough"];

const folder = mkdtempSync(join(tmpdir(), "uvrel-records-"));
const db = openDatabase(folder, MIGRATIONS);
const store = new Store(db);
const chance = new Chance(14_003);
const meter = { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
const BEGAN = Date.UTC(2016, 0, 1);
const moment = (k: number): string => new Date(BEGAN + (k * 10 * 365.25 * 86_400_000) / JOBS).toISOString();

const filling = performance.now();
store.action(() => {
  for (const sheet of DEMO_SHEETS) store.sheets.add(sheet, moment(0));
  for (let k = 0; k < 2000; k++)
    store.workshop.addUnit({ tag: `CH-${k}`, nickname: `Machine ${k}`, sheetId: (DEMO_SHEETS[k % DEMO_SHEETS.length] as { id: string }).id, usedFor: "" });
  for (let k = 0; k < JOBS; k++) {
    const unit = Math.floor(chance.next() * 2000);
    const sheet = DEMO_SHEETS[unit % DEMO_SHEETS.length] as (typeof DEMO_SHEETS)[number];
    const words = Array.from({ length: 5 }, () => chance.pick(WORDS)).join(" ");
    const id = store.jobs.open(
      {
        unitTag: `CH-${unit}`,
        nickname: `Machine ${unit}`,
        sheet,
        school: "harbour",
        meter,
        ambientC: 12,
        batteryAgeYears: chance.between(0, 8),
        complaint: [],
        words: `${words} number${k}`,
      },
      moment(k),
    );
    if (k > JOBS - 40) continue;
    const [part, fault] = chance.pick(FAULTS);
    const odds = chance.between(0.4, 0.99);
    if (chance.yes(0.7)) {
      store.records.state(id, chance.yes(odds) ? part : "rotor", odds, moment(k));
      store.jobs.repair(id, { part, fault, found: null, done: `${chance.pick(WORDS)} renewed` }, moment(k));
      store.jobs.close(id, "proven", null, moment(k));
    } else store.jobs.close(id, "healthy", null, moment(k));
  }
});
// Readings by the million go in by one statement; the triggers of the tables run for each as they do at the bench.
const steps: Step[] = CATALOGUE.flatMap((test) => stepsOf(test, DEMO_SHEETS[0] as (typeof DEMO_SHEETS)[number])).slice(0, EACH);
db.exec("CREATE TEMP TABLE steps (n INTEGER PRIMARY KEY, test TEXT, at TEXT)");
for (const [n, { test, at }] of steps.entries()) db.prepare("INSERT INTO steps VALUES (?, ?, ?)").run(n, test, at ?? null);
db.exec(`INSERT INTO readings (id, job_id, test, at, number, raw, taken_at)
  SELECT 'fill-' || jobs.id || '-' || n, jobs.id, test, steps.at, 12 + (abs(random()) % 300) / 100.0, 0, opened_at FROM jobs, (SELECT * FROM steps ORDER BY n) AS steps ORDER BY jobs.id, n`);
db.pragma("wal_checkpoint(TRUNCATE)");
const readings = db.prepare("SELECT count(*) FROM readings").pluck().get() as number;
const gigabytes = statSync(join(folder, DATABASE_FILE)).size / 1e9;
process.stderr.write(`filled: ${readings.toLocaleString("en")} readings, ${gigabytes.toFixed(2)} GB, ${((performance.now() - filling) / 1000).toFixed(0)} s\n`);

interface Timed {
  median: number;
  worst: number;
}

function timed(rounds: number, work: (round: number) => void): Timed {
  const times = Array.from({ length: rounds }, (_, round) => {
    const from = performance.now();
    work(round);
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return { median: times[Math.floor(times.length / 2)] as number, worst: times.at(-1) as number };
}

const ASKED: readonly Question[] = [
  { words: "regatta squeals frost" },
  { words: "number4711" },
  { words: "harb" },
  { words: "ferry", part: "stator", from: "2022-01-01", to: "2024-12-31" },
  { unitTag: "CH-77" },
  { kind: "mower", ending: "proven" },
  { part: "regulator", ending: "proven", words: "plough" },
  { test: "battery.rest", least: 12, most: 12.05 },
  { sheetId: "corvane-ferrel-650", from: "2025-01-01" },
  {},
];
const search = timed(ROUNDS, (round) => void store.records.look(ASKED[round % ASKED.length] as Question, 50, 0));
const charts: [string, Timed][] = [
  ["what fails on what", timed(9, () => void store.records.failures({}, "model"))],
  ["odds against what turned out", timed(9, () => void store.records.reliability({}))],
  ["the first part mended", timed(9, () => void store.records.firstRight({}))],
  ["jobs by month", timed(9, () => void store.records.byMonth({}))],
  ["minutes by test", timed(9, () => void store.records.minutesByTest())],
];

// A job closed and opened again: what is counted as it closes must not grow with what the records hold.
const closing = timed(20, () => {
  store.action(() => {
    store.jobs.reopen(JOBS - 100, moment(JOBS));
    store.jobs.close(JOBS - 100, "proven", null, moment(JOBS));
  });
});

const exported: { format: string; seconds: number; megabytes: number; memory: number }[] = [];
for (const format of TABLE_FORMAT_NAMES) {
  const file = join(folder, `readings.${format}`);
  const stream = createWriteStream(file);
  let [memory, pieces] = [0, 0];
  const from = performance.now();
  await writeTable(TABLES.readings.columns, exportRows(folder, "readings"), format, async (bytes) => {
    if (++pieces % 50 === 0) memory = Math.max(memory, process.memoryUsage().rss);
    if (!stream.write(bytes)) await once(stream, "drain");
  });
  stream.end();
  await once(stream, "close");
  exported.push({ format, seconds: (performance.now() - from) / 1000, megabytes: statSync(file).size / 1e6, memory: memory / 1e6 });
  rmSync(file);
  process.stderr.write(`${format} exported\n`);
}

// Backed up by the thread that does so in the server, while readings are kept.
const threads = new Piscina({ filename: resolve("build/tools/housekeeping.js"), maxThreads: 1 });
const copying = threads.run({ folder, file: join(folder, "copy.sqlite") }, { name: "copy" });
const from = performance.now();
let [done, k] = [false, 0];
copying.finally(() => {
  done = true;
});
const keeps: number[] = [];
while (!done) {
  const began = performance.now();
  store.jobs.readings.keep(JOBS, { id: `while-${k++}`, test: "battery.rest", value: 12.5, takenAt: moment(JOBS) });
  keeps.push(performance.now() - began);
  await pause(40);
}
const copied = (await copying) as { problem?: string };
const backup = (performance.now() - from) / 1000;
await threads.destroy();
if (copied.problem) throw new Error(copied.problem);
keeps.sort((a, b) => a - b);
const keep = keeps[Math.floor(keeps.length / 2)] as number;
store.close();
rmSync(folder, { recursive: true });

const row = (what: string, value: string, bound: string, holds: boolean | undefined): string =>
  `| ${what} | ${value} | ${bound} | ${holds === undefined ? "" : holds ? "holds" : "**falls short**"} |`;
const slowest = Math.max(...charts.map(([, { median }]) => median));
const longest = Math.max(...exported.map(({ seconds }) => seconds));
const text = [
  `${JOBS.toLocaleString("en")} jobs and ${readings.toLocaleString("en")} readings, ${gigabytes.toFixed(2)} GB in one file; at the server, without the page's own drawing. Ten questions in turn: words, beginnings, parts, days, tags, figures.`,
  "",
  "| | measured | bound | |",
  "|---|---|---|---|",
  row("records searched, ms (median; worst)", `${search.median.toFixed(1)}; ${search.worst.toFixed(0)}`, `≤ ${BOUNDS.search}`, search.median <= BOUNDS.search),
  row(
    `charts of all records, ms: ${charts.map(([name, { median }]) => `${name} ${median.toFixed(0)}`).join(", ")}`,
    slowest.toFixed(0),
    `≤ ${BOUNDS.charts}`,
    slowest <= BOUNDS.charts,
  ),
  row(
    `all readings exported, s: ${exported.map(({ format, seconds, megabytes, memory }) => `${format} ${seconds.toFixed(0)} (${megabytes.toFixed(0)} MB, at most ${memory.toFixed(0)} MB of memory)`).join(", ")}`,
    longest.toFixed(0),
    `≤ ${BOUNDS.export}`,
    longest <= BOUNDS.export,
  ),
  row("a job opened again and closed, ms (median)", closing.median.toFixed(1), "", undefined),
  row("the file backed up and looked through, s", backup.toFixed(0), `≤ ${BOUNDS.backup}`, backup <= BOUNDS.backup),
  row("a reading kept meanwhile, ms (median)", keep.toFixed(1), `≤ ${BOUNDS.keep}`, keep <= BOUNDS.keep),
].join("\n");
process.stdout.write(`${text}\n`);
if (process.argv[2] === undefined) writeBlock("records", text);
