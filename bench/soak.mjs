// Fifty clients at once work through jobs on a built server: rail, bench, verdict, report, readings, odds. Watches memory, the delay of
// the server's loop and every answer, and compares the record with what was kept.
//
//     node bench/soak.mjs [minutes] [clients]
import { spawn, spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { Agent, request as httpRequest } from "node:http";
import { cpus, tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import Database from "better-sqlite3";
import { tableOf, writeBlock } from "./table.mjs";

const minutes = Number(process.argv[2] ?? 30);
const clients = Number(process.argv[3] ?? 50);
/** Between two requests of one client, ms: a mechanic looks, thinks and types. */
const THINKS = [4000, 16_000];
/** What the server may come to, by the end: so much more memory than after the first third, its loop so late in one case of a hundred. */
const MOST = { growth: 1.25, lateMs: 100 };
/** From here on the figures are worth writing down. */
const DOCUMENTED = 20;

const data = mkdtempSync(join(tmpdir(), "uvrel-soak-"));
const env = { ...process.env, UVREL_DATA: data, PORT: "0", NODE_ENV: "production", LOG_LEVEL: "silent" };
if (spawnSync("node", ["build/tools/seed.js"], { env }).status !== 0) throw new Error("the demo workshop could not be made");
const server = spawn("node", ["--import", "./bench/watch.mjs", "scripts/serve.mjs"], { env, stdio: ["ignore", "pipe", "ignore", "ipc"] });
const url = await new Promise((resolve) => {
  let says = "";
  server.stdout.on("data", (chunk) => {
    says += String(chunk);
    const found = /http:\/\/\S+/.exec(says)?.[0];
    if (found) resolve(found);
  });
});
const { hostname, port } = new URL(url);

function watched() {
  return new Promise((resolve) => {
    server.once("message", resolve);
    server.send("used");
  });
}

// A browser asks again when the server has closed an idle connection; a client of one connection a request need not.
const agent = new Agent({ keepAlive: false, maxSockets: clients });
const statuses = new Map();
const taken = [];
function ask(method, path, body, type = "application/json") {
  const headers = { Origin: url, "Sec-Fetch-Site": "same-origin", ...(body ? { "Content-Type": type, "Content-Length": Buffer.byteLength(body) } : {}) };
  const from = performance.now();
  return new Promise((resolve) => {
    const done = (status, answer) => {
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      taken.push(performance.now() - from);
      resolve({ status, answer });
    };
    const request = httpRequest({ hostname, port, path, method, agent, headers }, (response) => {
      response.resume();
      response.on("end", () => done(response.statusCode, response));
    });
    request.on("error", (error) => done(error.code, undefined));
    request.end(body);
  });
}

const STEPS = [
  { test: "battery.rest", value: 12.5 },
  { test: "battery.settled", value: 12.2 },
  { test: "battery.crank", value: 10.4 },
  { test: "charge.volts", rpm: 5000, loads: "normal", value: 13.4 },
  { test: "charge.volts", rpm: "idle", loads: "normal", value: 12.9 },
  { test: "stator.toGround", at: "1", value: "OL" },
  { test: "stator.acVolts", at: "1-2", rpm: 5000, value: 61 },
  { test: "regulator.diode", at: "1>B+", value: 0.51 },
];
const UNITS = ["SK-102", "SK-114", "SK-121", "SK-133", "SK-206", "SK-211", "SK-302"];
const end = performance.now() + minutes * 60_000;
let kept = 0;

/** A mechanic: takes a machine in, reads it step by step with looks at the pages between, closes it, takes the next. */
async function mechanic(number) {
  const thinks = () => pause(THINKS[0] + (THINKS[1] - THINKS[0]) * Math.random());
  await pause(THINKS[1] * Math.random());
  while (performance.now() < end) {
    const form = new URLSearchParams({ machine: `unit:${UNITS[number % UNITS.length]}`, words: "Flat again.", ambientC: String(12 + 5 * (number % 2)) });
    const { answer } = await ask("POST", "/jobs/new", form.toString(), "application/x-www-form-urlencoded");
    const job = answer?.headers.location;
    if (!job) continue;
    for (const step of STEPS) {
      await ask("GET", job);
      await thinks();
      const reading = { ...step, id: randomUUID(), takenAt: new Date().toISOString() };
      const { status } = await ask("POST", `${job}/entries`, JSON.stringify({ kind: "reading", reading }));
      if (status === 200) kept++;
      await ask("GET", `${job}/advice`);
      await thinks();
      if (performance.now() > end) return;
    }
    for (const path of [`${job}/verdict`, "/", `${job}/report`, "/machines"]) await ask("GET", path);
    const close = new URLSearchParams({ intent: "close", ending: "unproven", note: "soaked" });
    await ask("POST", `${job}/verdict`, close.toString(), "application/x-www-form-urlencoded");
  }
}

const seen = [];
const watching = (async () => {
  while (performance.now() < end) {
    await pause(Math.min(15_000, minutes * 4000));
    seen.push(await watched());
  }
})();
await Promise.all([...Array.from({ length: clients }, (_, k) => mechanic(k)), watching]);
agent.destroy();
server.kill("SIGTERM");
await new Promise((resolve) => server.once("exit", resolve));
const db = new Database(join(data, "uvrel.sqlite"), { readonly: true });
const recorded = db
  .prepare(
    "SELECT count(*) FROM readings WHERE taken_at >= (SELECT min(opened_at) FROM jobs WHERE words = 'Flat again.') AND job_id IN (SELECT id FROM jobs WHERE words = 'Flat again.')",
  )
  .pluck()
  .get();
db.close();
rmSync(data, { recursive: true, force: true });

const mean = (some) => some.reduce((sum, value) => sum + value, 0) / some.length;
const third = Math.max(1, Math.floor(seen.length / 3));
const [early, late] = [mean(seen.slice(third, 2 * third).map(({ resident }) => resident)), mean(seen.slice(-third).map(({ resident }) => resident))];
const lateMs = Math.max(...seen.slice(1).map((one) => one.late.p99));
taken.sort((a, b) => a - b);
const bad = [...statuses].filter(([status]) => typeof status !== "number" || status >= 500).reduce((sum, [, times]) => sum + times, 0);
const rows = [
  [`answers to ${clients} clients in ${minutes} min`, taken.length.toLocaleString("en"), "", true],
  [
    "the same: median and 99th percentile",
    `${taken[Math.floor(taken.length / 2)].toFixed(0)} and ${taken[Math.floor(0.99 * taken.length)].toFixed(0)} ms`,
    "",
    true,
  ],
  ["answers of 5xx, and none at all", bad, "0", bad === 0],
  ["readings told to be kept that the record lacks, or has twice", Math.abs(kept - recorded), "0", kept === recorded],
  ["loop late in one case of a hundred, worst quarter of a minute", `${lateMs.toFixed(0)} ms`, `≤ ${MOST.lateMs} ms`, lateMs <= MOST.lateMs],
  ["memory in the middle third, and in the last", `${early.toFixed(0)} and ${late.toFixed(0)} MB`, `≤ ${MOST.growth} ×`, late <= MOST.growth * early],
];
const table = tableOf("soaked", rows);
process.stdout.write(`${table}\n`);
if (minutes >= DOCUMENTED) {
  const how = `${cpus().length} cores, Node ${process.version}, ${new Date().toISOString().slice(0, 10)}; clients and server on one machine.`;
  writeBlock("soak", `${table}\n\n${how}`);
}
if (rows.some(([, , , holds]) => !holds)) process.exitCode = 1;
