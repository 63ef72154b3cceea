import { factsIn, shopKnows } from "../app/jobs/file.server";
import { ThreadedOffice } from "../server/office";
import { dataFolder } from "../store/folder";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";

/** Most jobs whose odds are worked out ahead. */
const MOST = 24;

/** Works out the odds of the jobs on the rail that have none yet, so that they are told from the first minute. */
const store = new Store(openDatabase(dataFolder(), MIGRATIONS));
const office = new ThreadedOffice(store, (error) => process.stderr.write(`${error}\n`));
const waiting = store.jobs.listOpen(MOST, 0).flatMap(({ id }) => {
  const file = store.jobs.file(id);
  const facts = file && factsIn(file, shopKnows(store, file), false);
  return file && facts && !store.advices.find(id, facts) ? [{ id, file, facts }] : [];
});
if (waiting.length > 0) process.stdout.write(`Working out the odds of ${waiting.length} jobs on the rail.\n`);
await Promise.all(waiting.map(({ id, file, facts }) => office.advise(id, file.job, facts)));
await office.close();
store.close();
