import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setImmediate } from "node:timers/promises";
import type { Sheet } from "../core/machine/sheet";
import { DEMO_SHEETS } from "../demo/sheets";
import { readSheets, writeSheetTable } from "../formats/sheetTable";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";
import { writeBlock } from "./document";

/** The library at 5,000 sheets: searched, paged through, offered at the counter; a table of 5,000 rows looked through and kept. */

const SHEETS = 5000;
const ROWS = 5000;
const ROUNDS = 200;
/** What must hold at the server, ms. */
const BOUNDS = { search: 50, page: 30, preview: 2000, keep: 3000 } as const;

const folder = mkdtempSync(join(tmpdir(), "uvrel-library-"));
const store = new Store(openDatabase(folder, MIGRATIONS));
/** Invented names that share letters, as those of one maker's models do. */
const WORDS = ["Heron", "Curlew", "Plover", "Dunlin", "Godwit", "Avocet", "Whimbrel", "Sanderling", "Turnstone", "Lapwing"];
const sheetAt = (k: number): Sheet => {
  const like = DEMO_SHEETS[k % DEMO_SHEETS.length] as Sheet;
  return { ...like, id: `shelf-${k}`, model: `${WORDS[k % WORDS.length]} ${100 + Math.floor(k / WORDS.length)}` };
};
store.action(() => {
  for (let k = 0; k < SHEETS; k++) store.sheets.add(sheetAt(k), new Date().toISOString());
});

/** Median and worst of some rounds, ms. */
function timed(work: (round: number) => void): { median: number; worst: number } {
  const times = Array.from({ length: ROUNDS }, (_, round) => {
    const from = performance.now();
    work(round);
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return { median: times[ROUNDS / 2] as number, worst: times.at(-1) as number };
}

const TYPED = ["whimbrel 214", "corvane", "wimbrel", "ostrel godwt", "tidewright 2019", "moss"];
const search = timed((round) => store.sheets.some(store.finds.look(TYPED[round % TYPED.length] as string, "sheet").map(({ ref }) => ref)));
const page = timed((round) => {
  store.sheets.count();
  store.sheets.list(40, 40 * (round % 120));
});
const counter = timed(() => {
  store.sheets.offered(200);
  store.workshop.units(200);
});

const few: Sheet[] = [];
for (let [k, rows] = [0, 0]; rows < ROWS; k++) {
  few.push({ ...sheetAt(k), id: `table-${k}` });
  rows += few.at(-1)?.bands.length ?? 1;
}
const table = writeSheetTable(few);
let from = performance.now();
const { sheets, problems } = await readSheets(table, setImmediate);
for (const sheet of sheets) store.sheets.find(sheet.id);
const preview = performance.now() - from;
from = performance.now();
const again = await readSheets(table, setImmediate);
store.action(() => {
  for (const sheet of again.sheets) if (!store.sheets.change(sheet, new Date().toISOString())) store.sheets.add(sheet, new Date().toISOString());
});
const keep = performance.now() - from;
store.close();
rmSync(folder, { recursive: true });
if (problems.length > 0) throw new Error(`${problems.length} rows of the table could not be read`);

const row = (what: string, median: number, worst: number, bound: number | undefined): string =>
  `| ${what} | ${median.toFixed(1)} | ${worst.toFixed(1)} | ${bound === undefined ? "" : `≤ ${bound}`} | ${bound === undefined ? "" : median <= bound ? "holds" : "**falls short**"} |`;
const text = [
  `${SHEETS.toLocaleString("en")} sheets on the shelf; at the server, without the page's own drawing. Six searches in turn, two of them mistyped.`,
  "",
  "| | median, ms | worst, ms | bound | |",
  "|---|---|---|---|---|",
  row("search by a few letters", search.median, search.worst, BOUNDS.search),
  row("one page of the shelf", page.median, page.worst, BOUNDS.page),
  row("what the counter offers", counter.median, counter.worst, undefined),
  row(`a table of ${ROWS.toLocaleString("en")} rows looked through`, preview, preview, BOUNDS.preview),
  row("the same table kept", keep, keep, BOUNDS.keep),
].join("\n");
process.stdout.write(`${text}\n`);
writeBlock("library", text);
