// The one way in for every command. Uses nothing but Node, so that it runs on a fresh clone.

import { build } from "./lib/build.mjs";
import {
  bench,
  benchAgeing,
  benchChain,
  benchCircuit,
  benchContacts,
  benchDays,
  benchDiagnosis,
  benchEndurance,
  benchEngine,
  benchFamilies,
  benchHour,
  benchLearning,
  benchLibrary,
  benchRecords,
  benchTrace,
  check,
  demo,
  dev,
  screenshots,
  start,
} from "./lib/commands.mjs";
import { install } from "./lib/install.mjs";
import { Stop } from "./lib/run.mjs";
import { test } from "./lib/test.mjs";

const COMMANDS = {
  demo,
  test,
  dev,
  check,
  bench,
  "bench:ageing": benchAgeing,
  "bench:chain": benchChain,
  "bench:circuit": benchCircuit,
  "bench:days": benchDays,
  "bench:records": benchRecords,
  "bench:learning": benchLearning,
  "bench:diagnosis": benchDiagnosis,
  "bench:endurance": benchEndurance,
  "bench:engine": benchEngine,
  "bench:families": benchFamilies,
  "bench:hour": benchHour,
  "bench:library": benchLibrary,
  "bench:trace": benchTrace,
  "bench:contacts": benchContacts,
  build,
  start,
  screenshots,
};

const name = process.argv[2] ?? "";
const command = COMMANDS[name];
try {
  if (!command) throw new Stop(`No command “${name}”. There are: ${Object.keys(COMMANDS).join(", ")}.`);
  if (Number(process.versions.node.split(".")[0]) < 20) throw new Stop(`Uvrel needs Node.js 20 or newer; this is ${process.version}.`);
  install();
  await command(process.argv.slice(3));
} catch (error) {
  if (!(error instanceof Stop)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
