import { once } from "node:events";
import { createWriteStream, mkdirSync, mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DuckDBInstance } from "@duckdb/node-api";
import { DEMO_SHEETS } from "../demo/sheets";
import { writeTable } from "../formats/tableOut";
import { TABLES, type TableName } from "../formats/tables";
import { exportRows } from "../store/exporting";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";
import { Chance } from "./diagnosis/chance";
import { writeBlock } from "./document";

/** A chain of ten shops: each exports its tables as Parquet, and an embedded analytical engine answers over all of them at once. */

const SHOPS = 10;
const JOBS = 1000;
const READINGS_EACH = 12;
const FAULTS = [
  ["regulator", "regulator.no-output"],
  ["stator", "stator.winding-open"],
  ["battery", "battery.sulphated"],
  ["wiring", "wiring.leg-burnt"],
] as const;
const folder = mkdtempSync(join(tmpdir(), "uvrel-chain-"));
const meter = { name: "Meter 1", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: true, diodeMaxVolts: 2.6 };

/** Fills a shop whose machines fail each a little in their own way. */
function fill(data: string, shop: number): void {
  const store = new Store(openDatabase(data, MIGRATIONS));
  const chance = new Chance(15_000 + shop);
  store.action(() => {
    for (const sheet of DEMO_SHEETS) store.sheets.add(sheet, "2024-01-01T00:00:00.000Z");
    for (let k = 0; k < JOBS; k++) {
      const at = new Date(Date.UTC(2024, 0, 1) + k * 17 * 3_600_000).toISOString();
      const sheet = DEMO_SHEETS[Math.floor(chance.next() * DEMO_SHEETS.length)] as (typeof DEMO_SHEETS)[number];
      const id = store.jobs.open(
        {
          unitTag: null,
          nickname: `Machine ${k}`,
          sheet,
          school: "harbour",
          meter,
          ambientC: 12,
          batteryAgeYears: 3,
          complaint: ["flat-after-ride"],
          words: "Flat.",
        },
        at,
      );
      for (let n = 0; n < READINGS_EACH; n++)
        store.jobs.readings.keep(id, {
          id: `chain-${shop}-${id}-${n}`,
          test: n % 2 ? "battery.crank" : "battery.rest",
          value: (n % 2 ? 10.2 : 12.6) + chance.normal(0.2),
          takenAt: at,
        });
      const [part, fault] = chance.yes(0.3) ? (FAULTS[shop % FAULTS.length] as (typeof FAULTS)[number]) : chance.pick(FAULTS);
      store.jobs.repair(id, { part, fault, found: null, done: "Renewed." }, at);
      store.jobs.close(id, "proven", null, at);
    }
  });
  store.close();
}

async function exportTo(data: string, table: TableName, file: string): Promise<void> {
  const stream = createWriteStream(file);
  await writeTable(TABLES[table].columns, exportRows(data, table), "parquet", async (bytes) => {
    if (!stream.write(bytes)) await once(stream, "drain");
  });
  stream.end();
  await once(stream, "close");
}

let bytes = 0;
const exporting = performance.now();
for (let shop = 0; shop < SHOPS; shop++) {
  const data = join(folder, `shop-${shop}`);
  fill(data, shop);
  for (const table of ["jobs", "readings"] as const) {
    mkdirSync(join(folder, table), { recursive: true });
    const file = join(folder, table, `shop-${shop}.parquet`);
    await exportTo(data, table, file);
    bytes += statSync(file).size;
  }
}
const exported = (performance.now() - exporting) / 1000;

const engine = await (await DuckDBInstance.create(":memory:")).connect();
const [jobs, readings] = [`read_parquet('${folder}/jobs/*.parquet', filename = true)`, `read_parquet('${folder}/readings/*.parquet', filename = true)`];
const QUESTIONS = [
  [
    "What fails on what, over all shops",
    `SELECT model, partLast, count(*) AS times FROM ${jobs} WHERE ending = 'proven' GROUP BY ALL ORDER BY times DESC LIMIT 3`,
  ],
  [
    "Which shop sees which part most",
    `SELECT parse_filename(filename) AS shop, arg_max(partLast, times) AS part FROM (SELECT filename, partLast, count(*) AS times FROM ${jobs} GROUP BY ALL) GROUP BY ALL ORDER BY shop LIMIT 3`,
  ],
  [
    "Crank dip by model: median and lowest tenth",
    `SELECT j.model, median(r.number) AS middle, quantile_cont(r.number, 0.1) AS low FROM ${readings} r JOIN ${jobs} j USING (job) WHERE r.test = 'battery.crank' GROUP BY ALL ORDER BY low LIMIT 3`,
  ],
] as const;
const rows: string[] = [];
for (const [question, sql] of QUESTIONS) {
  const from = performance.now();
  const found = (await engine.runAndReadAll(sql)).getRowsJson();
  rows.push(
    `| ${question} | ${Math.round(performance.now() - from)} | ${found.map((row) => row.map((cell) => (typeof cell === "number" ? cell.toFixed(2) : String(cell))).join(" ")).join("; ")} |`,
  );
}
engine.closeSync();
rmSync(folder, { recursive: true });
const text = [
  `${SHOPS} shops of ${JOBS.toLocaleString("en")} jobs and ${(JOBS * READINGS_EACH).toLocaleString("en")} readings each, filled and exported as Parquet in ${exported.toFixed(0)} s, ${(bytes / 1e6).toFixed(1)} MB in all; the questions answered over all files at once.`,
  "",
  "| question | ms | first answers |",
  "|---|---|---|",
  ...rows,
].join("\n");
process.stdout.write(`${text}\n`);
writeBlock("chain", text);
