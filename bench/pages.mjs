// Measures the bench page on the built server with 100,000 jobs in the database, prints a table and writes it to docs/benchmarks.md.
import { spawn, spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { Agent, request as httpRequest } from "node:http";
import { cpus, tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { tableOf, writeBlock } from "./table.mjs";

const data = mkdtempSync(join(tmpdir(), "uvrel-bench-"));

/** A built server on a database of its own, filled; which of its jobs are measured. */
async function filled(name, size) {
  const env = { ...process.env, UVREL_DATA: join(data, name), PORT: "0", NODE_ENV: "production" };
  const fill = spawnSync("node", ["build/tools/fill.js", size], { env, encoding: "utf8" });
  if (fill.status !== 0) throw new Error(fill.stderr);
  const server = spawn("node", ["scripts/serve.mjs"], { env });
  const url = await new Promise((resolve) => server.stdout.on("data", (chunk) => resolve(/http:\S+/.exec(String(chunk))?.[0])));
  return { server, url, ...JSON.parse(fill.stdout) };
}
const agent = new Agent({ keepAlive: true, maxSockets: 1 });

/** One request as a browser would send it, its whole body read; the bare client keeps its own time out of the figure. */
function ask(method, path, body, encoding = "gzip, deflate, br") {
  const { origin, hostname, port } = new URL(url);
  const headers = { "Accept-Encoding": encoding, Origin: origin, ...(body ? { "Content-Type": "application/json" } : {}) };
  return new Promise((resolve, reject) => {
    const request = httpRequest({ hostname, port, path, method, agent, headers }, (answer) => {
      const chunks = [];
      answer.on("data", (chunk) => chunks.push(chunk));
      answer.on("end", () =>
        answer.statusCode === 200 || answer.statusCode === 202
          ? resolve({ status: answer.statusCode, body: Buffer.concat(chunks) })
          : reject(new Error(`${path}: answer ${answer.statusCode}`)),
      );
    });
    request.on("error", reject);
    request.end(body);
  });
}

/** Times a request many times, one after the other. */
async function times(count, request) {
  const taken = [];
  for (let i = 0; i < count; i++) {
    const from = performance.now();
    await request();
    taken.push(performance.now() - from);
  }
  return taken.sort((a, b) => a - b);
}
/** Long enough for the server to have prepared itself, ms. */
const PREPARED = 75_000;
const at = (sorted, share) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];

/** Asks again while the machine's charts are drawn. */
async function drawn(path) {
  for (;;) {
    const answer = await ask("GET", path);
    if (answer.status === 200) return answer.body;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
/** The bench page of a long record, and the rail: milliseconds, sorted. */
async function pagesAndRails(of) {
  const page = () => ask("GET", `/jobs/${of}`);
  await times(300, page);
  const pages = await times(1000, page);
  const rail = () => ask("GET", "/");
  await times(100, rail);
  return { pages, rails: await times(300, rail) };
}
const small = await filled("small", "few");
let { url } = small;
await drawn(`/jobs/${small.long}/advice`);
const ofFew = await pagesAndRails(small.long);
small.server.kill("SIGTERM");

const { server, long: job, usual, unseen, ...large } = await filled("large", "many");
({ url } = large);
async function firstOdds(of) {
  const opened = performance.now();
  await drawn(`/jobs/${of}/advice`);
  return performance.now() - opened;
}
const begunWith = await firstOdds(unseen[0]);
// The server prepares itself once nobody has asked for anything for twenty seconds: it draws for half a minute, and advises once.
await new Promise((resolve) => setTimeout(resolve, PREPARED));
const prepared = await firstOdds(unseen[1]);
await firstOdds(job);
const pack = (await drawn(`/jobs/${job}/predictions`)).length;
const html = String((await ask("GET", `/jobs/${job}`, undefined, "identity")).body);
const oddsInHtml = html.includes("Standing") && !html.includes("Working out the odds");
const { pages, rails } = await pagesAndRails(job);

/** Milliseconds from a kept reading to the server's next advice, sorted: one more reading, put right 29 times, so that the record keeps its length. */
async function nextAdvices(of) {
  const taken = [];
  let before;
  for (let i = 0; i < 30; i++) {
    const id = randomUUID();
    const reading = { id, test: "charge.groundDrop", rpm: 5000, loads: "normal", value: 0.04 + 0.001 * i, takenAt: new Date().toISOString() };
    const corrects = before ? { supersedes: before, supersedesWhy: "mistyped" } : {};
    await ask("POST", `/jobs/${of}/entries`, JSON.stringify({ kind: "reading", reading: { ...reading, ...corrects } }));
    taken.push(...(await times(1, () => drawn(`/jobs/${of}/advice`))));
    before = id;
  }
  return taken.sort((a, b) => a - b);
}
await firstOdds(usual);
const afterUsual = await nextAdvices(usual);
const afterLong = await nextAdvices(job);

const save = () =>
  ask(
    "POST",
    `/jobs/${job}/entries`,
    JSON.stringify({ kind: "reading", reading: { id: randomUUID(), test: "battery.conductance", value: 90, takenAt: new Date().toISOString() } }),
  );
await times(20, save);
const saves = await times(200, save);

const browser = await chromium.launch(JSON.parse(readFileSync("tests/chromium.json", "utf8")));
const paints = [];
const strays = new Set();
let script = 0;
for (let i = 0; i < 5; i++) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const tab = await context.newPage();
  const sizes = [];
  tab.on("request", (request) => {
    if (!request.url().startsWith(url) && !request.url().startsWith("data:")) strays.add(request.url());
  });
  tab.on("requestfinished", (request) => {
    if (request.url().endsWith(".js")) sizes.push(request.sizes());
  });
  await tab.goto(`${url}/jobs/${job}`);
  await tab.waitForLoadState("networkidle");
  paints.push(
    await tab.evaluate(
      () =>
        new Promise((resolve) =>
          new PerformanceObserver((list) => resolve(list.getEntries().at(-1).startTime)).observe({ type: "largest-contentful-paint", buffered: true }),
        ),
    ),
  );
  script = Math.max(
    script,
    (await Promise.all(sizes)).reduce((sum, one) => sum + one.responseBodySize, 0),
  );
  await context.close();
}
const rig = await measureRig();
await browser.close();
server.kill("SIGTERM");
rmSync(data, { recursive: true });

/** The rig with its throttle moving: updates a second of meter and scope, and the longest the page was held up. */
async function measureRig() {
  const tab = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await tab.goto(`${url}/rig?sheet=corvane-ferrel-650&fault=regulator.diode-open`);
  await tab.waitForFunction(() => document.querySelector("[data-meter]")?.dataset.updates > 60);
  await tab.evaluate(() => {
    window.held = [0];
    new PerformanceObserver((list) => window.held.push(...list.getEntries().map((entry) => entry.duration))).observe({ type: "longtask" });
  });
  const count = () => tab.evaluate(() => Number(document.querySelector("[data-meter]").dataset.updates));
  await tab.getByRole("slider", { name: "Throttle, rpm" }).focus();
  const [from, started] = [await count(), performance.now()];
  for (let i = 0; i < 160; i++) {
    await tab.keyboard.press(i % 80 < 60 ? "ArrowUp" : "PageDown");
    await tab.waitForTimeout(50);
  }
  const rate = ((await count()) - from) / ((performance.now() - started) / 1000);
  return { rate, held: await tab.evaluate(() => Math.max(...window.held)) };
}

const ms = (value) => `${value.toFixed(1)} ms`;
const timesOf = (one, other) => at(one, 0.5) / at(other, 0.5);
const rows = [
  ["Bench page, 60 readings, 100,000 jobs: median", ms(at(pages, 0.5)), "≤ 15 ms", at(pages, 0.5) <= 15],
  ["the same: 95th percentile", ms(at(pages, 0.95)), "≤ 40 ms", at(pages, 0.95) <= 40],
  ["Rail, 24 tags, 100,000 jobs: median", ms(at(rails, 0.5)), "≤ 30 ms", at(rails, 0.5) <= 30],
  [
    "Bench and rail against those of 1,000 jobs: medians",
    `${timesOf(pages, ofFew.pages).toFixed(2)} and ${timesOf(rails, ofFew.rails).toFixed(2)} ×`,
    "≤ 1.3 ×",
    Math.max(timesOf(pages, ofFew.pages), timesOf(rails, ofFew.rails)) <= 1.3,
  ],
  ["Odds in the bench's first HTML", oddsInHtml ? "yes" : "no", "yes", oddsInHtml],
  ["First odds of a machine never seen, charts drawn meanwhile", ms(prepared), "≤ 4,000 ms", prepared <= 4000],
  ["the same, of a server that has just begun", ms(begunWith), "≤ 4,000 ms", begunWith <= 4000],
  ["Next advice after a kept reading, 15 readings: median of 30", ms(at(afterUsual, 0.5)), "≤ 150 ms", at(afterUsual, 0.5) <= 150],
  ["the same, 60 readings", ms(at(afterLong, 0.5)), "≤ 150 ms", at(afterLong, 0.5) <= 150],
  ["Data for the page's own engine, compressed", `${(pack / 1000).toFixed(0)} kB`, "≤ 1,500 kB", pack <= 1_500_000],
  ["Keeping a reading: median", ms(at(saves, 0.5)), "≤ 10 ms", at(saves, 0.5) <= 10],
  ["JavaScript of the bench page, compressed", `${(script / 1000).toFixed(0)} kB`, "≤ 195 kB", script <= 195_000],
  ["Largest paint, first open, uncached: worst of 5", ms(Math.max(...paints)), "≤ 1,500 ms", Math.max(...paints) <= 1500],
  ["Rig, throttle moving: updates a second of meter and scope", rig.rate.toFixed(1), "≥ 30", rig.rate >= 30],
  ["the same: longest the page was held up", rig.held === 0 ? "never over 50 ms" : ms(rig.held), "≤ 50 ms", rig.held <= 50],
  ["Requests that left the machine", String(strays.size), "0", strays.size === 0],
];
const table = tableOf("measured", rows);
process.stdout.write(`${table}\n`);
writeBlock(
  "pages",
  `${table}\n\nNode ${process.version}, ${cpus().length} cores, Chromium headless, loopback, ${new Date().toISOString().slice(0, 10)}. 1,000 page answers and 200 savings one after the other after a warm-up of 300 and 20, each with its whole body read.`,
);
if (rows.some((row) => !row[3])) process.exitCode = 1;
