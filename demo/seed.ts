import { dataFolder } from "../store/folder";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";
import { seedDemo } from "./workshop";

/** Puts the demo workshop into the data folder, unless there is work in it already. */
try {
  const store = new Store(openDatabase(dataFolder(), MIGRATIONS));
  const { open, closed } = store.jobs.count();
  if (open + closed + store.sheets.count() === 0) seedDemo(store, new Date());
  store.close();
} catch (error) {
  if (!(error instanceof DatabaseProblem)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
