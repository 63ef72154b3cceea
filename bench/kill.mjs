// Types readings into the real bench in a browser while the server is killed (SIGKILL) at random moments around each and started again;
// then compares the record with what was typed: nothing lost, nothing twice.
//
//     node bench/kill.mjs [kills] [seed]
import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { chromium } from "@playwright/test";
import Database from "better-sqlite3";
import { tableOf, writeBlock } from "./table.mjs";

const kills = Number(process.argv[2] ?? 1000);
const seed = Number(process.argv[3] ?? 1);
/** The kill falls between so long before and so long after the key is pressed, ms: before, on its way, while it is written, after. */
const AROUND = { before: 60, after: 240 };
/** Readings of one job before the next is taken in. */
const READINGS_A_JOB = 12;
/** How long what waits may take to arrive once the server is back, ms. */
const ARRIVES = 60_000;
/** From here on the figures are worth writing down. */
const DOCUMENTED = 500;

/** Steps of any three-phase machine that show a figure, each with a plain one; thousandths tell the readings apart. */
const STEPS = [
  ["battery.rest", 12.4],
  ["battery.settled", 12.1],
  ["battery.crank", 10.2],
  ["charge.volts~~5000~normal", 13.9],
  ["charge.volts~~idle~normal", 13.1],
  ["charge.volts~~5000~off", 14.2],
  ["stator.resistance~1-2", 0.4],
  ["stator.acVolts~1-2~5000", 61],
  ["regulator.diode~1>B+", 0.5],
  ["charge.groundDrop~~5000~normal", 0.1],
];

/** Seeded chance (mulberry32). */
let state = seed >>> 0;
function chance() {
  state = (state + 0x6d2b79f5) >>> 0;
  let t = Math.imul(state ^ (state >>> 15), state | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}

const data = mkdtempSync(join(tmpdir(), "uvrel-kill-"));
const env = { ...process.env, UVREL_DATA: data, NODE_ENV: "production", LOG_LEVEL: "silent" };
if (spawnSync("node", ["build/tools/seed.js"], { env }).status !== 0) throw new Error("the demo workshop could not be made");

let server;
/** Starts the server and waits for its address. @param port 0 the first time, then always the same */
async function start(port) {
  server = spawn("node", ["scripts/serve.mjs"], { env: { ...env, PORT: String(port) } });
  let says = "";
  return new Promise((resolve, reject) => {
    server.stdout.on("data", (chunk) => {
      says += String(chunk);
      const url = /http:\/\/\S+/.exec(says)?.[0];
      if (url) resolve(url);
    });
    server.once("exit", () => reject(new Error(`the server did not start: ${says}`)));
  });
}
async function kill() {
  const gone = new Promise((resolve) => server.once("exit", resolve));
  server.kill("SIGKILL");
  await gone;
}

const url = await start(0);
const { port } = new URL(url);
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"] });
const context = await browser.newContext();
let page = await context.newPage();
const ready = () => page.waitForFunction(() => Object.keys(document.querySelector("main") ?? {}).some((key) => key.startsWith("__react")));
const arrived = () => page.getByText("not yet sent").first().waitFor({ state: "hidden", timeout: ARRIVES });

async function takeIn() {
  const answer = await context.request.post(`${url}/jobs/new`, {
    headers: { Origin: url, "Sec-Fetch-Site": "same-origin" },
    form: { machine: "unit:SK-121", words: "Flat again.", ambientC: "14" },
    maxRedirects: 0,
  });
  return answer.headers().location;
}

const typed = [];
let [job, closedTabs] = [await takeIn(), 0];
const begun = performance.now();
for (let k = 0; k < kills; k++) {
  if (k > 0 && k % READINGS_A_JOB === 0) job = await takeIn();
  const [step, about] = STEPS[k % STEPS.length];
  const value = Number((about + 0.001 * (1 + Math.floor(k / STEPS.length))).toFixed(3));
  await page.goto(`${url}${job}?step=${encodeURIComponent(step)}`);
  await ready();
  await page.getByLabel(/What the meter shows/).fill(String(value));
  const moment = AROUND.after * chance() - AROUND.before * chance();
  const killed = (async () => {
    await pause(Math.max(0, moment));
    await kill();
  })();
  if (moment < 0) await pause(-moment);
  await page.keyboard.press("Enter");
  typed.push({ job: Number(job.split("/").at(-1)), test: step.split("~")[0], value });
  // Now and then the phone dies with the server: what was written down must outlive both.
  const dies = chance() < 0.15;
  if (dies) {
    await pause(20);
    await page.close();
    closedTabs++;
  }
  await killed;
  await pause(300 * chance());
  await start(port);
  if (dies) {
    page = await context.newPage();
    await page.goto(url);
    await ready();
  }
  await arrived();
  if ((k + 1) % 50 === 0) process.stdout.write(`${k + 1} of ${kills}, ${((performance.now() - begun) / 1000).toFixed(0)} s\n`);
}
await browser.close();
await kill();

const db = new Database(join(data, "uvrel.sqlite"));
const times = db.prepare("SELECT count(*) FROM readings WHERE job_id = @job AND test = @test AND abs(number - @value) < 1e-9").pluck();
const counts = typed.map((one) => times.get(one));
const [lost, doubled] = [counts.filter((count) => count === 0).length, counts.filter((count) => count > 1).length];
const sound = db.pragma("integrity_check", { simple: true }) === "ok" && db.pragma("foreign_key_check").length === 0;
db.close();
rmSync(data, { recursive: true, force: true });
for (const [k, count] of counts.entries()) if (count !== 1) process.stdout.write(`${JSON.stringify(typed[k])}: ${count} times\n`);

const table = tableOf("killed", [
  [`kills, seed ${seed} (tabs that died with the server: ${closedTabs})`, kills.toLocaleString("en"), "", true],
  ["readings lost", lost, "0", lost === 0],
  ["readings kept twice", doubled, "0", doubled === 0],
  ["the database sound after the last kill", sound ? "yes" : "no", "yes", sound],
]);
process.stdout.write(`${table}\n`);
if (kills >= DOCUMENTED) writeBlock("kill", table);
if (lost > 0 || doubled > 0 || !sound) process.exitCode = 1;
