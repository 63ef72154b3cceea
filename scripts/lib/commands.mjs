import { spawn } from "node:child_process";
import { build } from "./build.mjs";
import { bin, run, Stop, stay, tryRun } from "./run.mjs";
import { ensureSystem } from "./system.mjs";

/** Builds, puts the demo workshop into an empty database, starts the server and prints its address. */
export function demo() {
  build();
  run("node", ["build/tools/seed.js"]);
  run("node", ["build/tools/advise.js"]);
  standIns();
  start();
}

/** Meters that the demo's workshop has: each plays a machine of the demo for as long as the demo runs. */
const STAND_INS = [
  ["bench", "5025", "brannoch-corrie-600"],
  ["clamp", "5026", "corvane-ferrel-650"],
  ["logger", "5027", "ostrel-burro-520"],
];

/** Starts the stand-ins; a port that is in use already leaves its stand-in out. */
function standIns() {
  for (const [kind, port, sheet] of STAND_INS) {
    const args = ["build/tools/uvrel.js", "meter", "--kind", kind, "--port", port, "--sheet", sheet];
    spawn("node", args, { stdio: "ignore", env: { ...process.env, UVREL_PARENT: String(process.pid) } }).unref();
  }
}

/** Starts the built server. */
export function start() {
  build();
  stay("node", ["scripts/serve.mjs"], { NODE_ENV: "production" });
}

/** Starts the development server, which reloads what is edited. */
export function dev() {
  // The threads run from built files.
  run(bin("vite"), ["build", "--config", "vite.tools.config.ts", "--logLevel", "warn"]);
  stay("node", ["scripts/dev.mjs"], { NODE_ENV: "development" });
}

/** The checks in their order, each with the words it fails under. */
export const CHECKS = [
  ["types", () => tryRun(bin("react-router"), ["typegen"]) && tryRun(bin("tsc"), ["--noEmit"])],
  ["lint and format", () => tryRun(bin("biome"), ["check", "--error-on-warnings", "."])],
  [
    "boundaries",
    () =>
      tryRun(bin("depcruise"), [
        "app",
        "bench",
        "cli",
        "core",
        "demo",
        "formats",
        "meters",
        "papers",
        "server",
        "store",
        "workers",
        "--config",
        ".dependency-cruiser.cjs",
        "--output-type",
        "err",
      ]),
  ],
  ["unused exports", () => tryRun("node", ["scripts/unused.mjs"])],
  ["families named outside their files", () => tryRun("node", ["scripts/familynames.mjs"])],
];

/** Types, lint, format, boundaries, unused exports, families' names. */
export function check() {
  const failed = CHECKS.filter(([, passes]) => !passes()).map(([name]) => name);
  if (failed.length > 0) throw new Stop(`Failed: ${failed.join(", ")}.`);
}

/** Measures what the program must hold and prints it as a table. */
export function bench(args) {
  build();
  run("node", ["bench/pages.mjs", ...args], { NODE_ENV: "production" });
}

/** Opens an hour of a fast logger in a browser, and drags through it. */
export function benchHour(args) {
  build();
  run("node", ["bench/hour.mjs", ...args], { NODE_ENV: "production" });
}

/** Measures the circuit core, by itself and beside ngspice. */
export function benchCircuit(args) {
  ensureSystem();
  build();
  run("node", ["build/tools/circuit.js", ...args], { NODE_ENV: "production" });
}

/** A benchmark that is a program of its own: built, then run with what was given. */
const benchOf = (program) => (args) => {
  build();
  run("node", [`build/tools/${program}.js`, ...args], { NODE_ENV: "production" });
};

/** Plays hidden faults of an independent world through the command line's dialogue. */
export const benchDiagnosis = benchOf("diagnosis");

/** The engine on hidden faults of the families that are not three-phase on magnets. */
export const benchFamilies = benchOf("families");

/** The library at thousands of sheets. */
export const benchLibrary = benchOf("library");

/** Logged traces of an own generator, read by the recogniser. */
export const benchTrace = benchOf("trace");

/** Machines that age, and what is warned of in time. */
export const benchAgeing = benchOf("ageing");

/** Days planned, and worked on as they came. */
export const benchDays = benchOf("days");

/** 100,000 jobs and 5 million readings: searched, counted, exported, backed up. */
export const benchRecords = benchOf("records");

/** Ten shops' exports, asked over all at once by an embedded analytical engine. */
export const benchChain = benchOf("chain");

/** What a shop's own proven repairs are worth. */
export const benchLearning = benchOf("learning");

/** Probes set on parts, read without a touch. */
export const benchContacts = benchOf("contacts");

/** Times the engine's parts: drawing charts in threads, an update, a ranking. */
export function benchEngine() {
  build();
  run("node", ["build/tools/engine.js"], { NODE_ENV: "production" });
}

/** Throws requests, kills and crowds at the built server: the long runs, an hour and a half and more. `fuzz`, `kill` or `soak` runs one of them. */
export function benchEndurance([only]) {
  build();
  for (const [name, program] of [
    ["fuzz", "build/tools/fuzz.js"],
    ["kill", "bench/kill.mjs"],
    ["soak", "bench/soak.mjs"],
  ])
    if (only === undefined || only === name) run("node", [program], { NODE_ENV: "production" });
}

/** Takes the pictures of the main views from demo data. */
export function screenshots() {
  build();
  run("node", ["scripts/screenshots.mjs"], { NODE_ENV: "production" });
}
