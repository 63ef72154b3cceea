import type { Sheet } from "../core/machine/sheet";
import { bandFor } from "../core/procedure/bands";
import { CATALOGUE } from "../core/procedure/catalogue";
import { schoolOf } from "../core/procedure/schools";
import { type Step, stepsOf } from "../core/procedure/step";
import { DEMO_SHEETS } from "../demo/sheets";
import { seedDemo } from "../demo/workshop";
import { dataFolder } from "../store/folder";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";

/**
 * Fills a database for the page benchmark: the demo, then many jobs, then the ones that are measured, whose ids it prints.
 * Usage: node build/tools/fill.js [few]; few jobs are a thousand, usually a hundred times as many
 */

const FEW = process.argv[2] === "few";
const JOBS = FEW ? 100 : 10_000;
const READINGS_EACH = 24;
/** Older jobs, closed and proven, of which little is left but the repair. */
const OLDER = 9 * JOBS;
const LONG_RECORD = 60;
const USUAL_RECORD = 15;
/** Of the many jobs, this many are still open; the others were closed over the years. */
const OPEN = 40;

const store = new Store(openDatabase(dataFolder(), MIGRATIONS));
seedDemo(store, new Date());
const meter = { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
const [sheet, second, third] = DEMO_SHEETS;
if (!sheet || !second || !third) throw new Error("no demo sheets");
const steps = CATALOGUE.flatMap((test) => stepsOf(test, sheet));

/** A healthy figure for a step: the middle of its band. */
function value(step: Step): number | string {
  const band = sheet && bandFor(step, sheet, schoolOf("harbour"), 12.8);
  if (band?.kind === "open") return "OL";
  if (band?.kind === "words") return band.good[0] ?? "";
  return band?.kind === "between" ? ((band.low ?? band.high ?? 0) + (band.high ?? band.low ?? 0)) / 2 : 1;
}

function addJob(i: number, readings: number, of: Sheet | undefined = sheet): number {
  if (!of) throw new Error("no demo sheet");
  const opened = new Date(Date.now() - i * 3_600_000).toISOString();
  const id = store.jobs.open(
    {
      unitTag: null,
      nickname: `Machine ${i}`,
      sheet: of,
      school: "harbour",
      meter,
      ambientC: 20,
      batteryAgeYears: 2,
      complaint: ["flat-after-ride"],
      words: "Flat again.",
    },
    opened,
  );
  for (let n = 0; n < readings; n++) {
    const step = steps[n % steps.length] as Step;
    store.jobs.readings.keep(id, { ...step, id: `fill-${id}-${n}`, value: value(step), takenAt: opened, ...(n >= steps.length ? { afterRepair: true } : {}) });
  }
  return id;
}

/** One with a long record, one with a usual one, and two of machines that the server has never seen. */
const measured = store.action(() => {
  for (let i = 1; i < JOBS; i++) {
    const id = addJob(i, READINGS_EACH);
    if (i > OPEN) store.jobs.close(id, "healthy", null, new Date().toISOString());
  }
  for (let i = JOBS; i < JOBS + OLDER; i++) {
    const id = addJob(i, 1);
    store.jobs.repair(id, { part: "regulator", fault: "regulator.no-output", found: null, done: "Unit renewed." }, new Date().toISOString());
    store.jobs.close(id, "proven", null, new Date().toISOString());
  }
  return { long: addJob(0, LONG_RECORD), usual: addJob(0, USUAL_RECORD), unseen: [addJob(0, 0, second), addJob(0, 0, third)] };
});
store.close();
process.stdout.write(JSON.stringify(measured));
