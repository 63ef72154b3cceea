// Measures the bench page on the built server with 100,000 jobs in the database, prints a table and writes it to docs/benchmarks.md.
import { spawn, spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { Agent, request as httpRequest } from "node:http";
import { cpus, tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";

const data = mkdtempSync(join(tmpdir(), "uvrel-bench-"));
const env = { ...process.env, UVREL_DATA: data, PORT: "0", NODE_ENV: "production" };
const fill = spawnSync("node", ["build/tools/fill.js"], { env, encoding: "utf8" });
if (fill.status !== 0) throw new Error(fill.stderr);
const job = fill.stdout.trim();
const server = spawn("node", ["scripts/serve.mjs"], { env });
const url = await new Promise((resolve) => server.stdout.on("data", (chunk) => resolve(/http:\S+/.exec(String(chunk))?.[0])));

const agent = new Agent({ keepAlive: true, maxSockets: 1 });
const { hostname, port } = new URL(url);

/** One request as a browser would send it, its whole body read; the bare client keeps its own time out of the figure. */
function ask(method, path, body, encoding = "gzip, deflate, br") {
  const headers = { "Accept-Encoding": encoding, Origin: url, ...(body ? { "Content-Type": "application/json" } : {}) };
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
const at = (sorted, share) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];

/** Asks again while the machine's charts are drawn. */
async function drawn(path) {
  for (;;) {
    const answer = await ask("GET", path);
    if (answer.status === 200) return answer.body;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
const opened = performance.now();
await drawn(`/jobs/${job}/advice`);
const firstOdds = performance.now() - opened;
const pack = (await drawn(`/jobs/${job}/predictions`)).length;
const html = String((await ask("GET", `/jobs/${job}`, undefined, "identity")).body);
const oddsInHtml = html.includes("Standing") && !html.includes("Working out the odds");
const page = () => ask("GET", `/jobs/${job}`);
await times(300, page);
const pages = await times(1000, page);

const rail = () => ask("GET", "/");
await times(100, rail);
const rails = await times(300, rail);

const advices = [];
for (let i = 0; i < 30; i++) {
  const reading = { id: randomUUID(), test: "charge.groundDrop", rpm: 5000, loads: "normal", value: 0.04 + 0.001 * i, takenAt: new Date().toISOString() };
  await ask("POST", `/jobs/${job}/entries`, JSON.stringify({ kind: "reading", reading }));
  const from = performance.now();
  await drawn(`/jobs/${job}/advice`);
  advices.push(performance.now() - from);
}
advices.sort((a, b) => a - b);

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
const rows = [
  ["Bench page, 60 readings, 100,000 jobs: median", ms(at(pages, 0.5)), "≤ 15 ms", at(pages, 0.5) <= 15],
  ["the same: 95th percentile", ms(at(pages, 0.95)), "≤ 40 ms", at(pages, 0.95) <= 40],
  ["Rail, 24 tags, 100,000 jobs: median", ms(at(rails, 0.5)), "≤ 30 ms", at(rails, 0.5) <= 30],
  ["Odds in the bench's first HTML", oddsInHtml ? "yes" : "no", "yes", oddsInHtml],
  ["Odds of a machine never seen, charts drawn meanwhile", ms(firstOdds), "≤ 4,000 ms", firstOdds <= 4000],
  ["Next advice after a kept reading, from the server: median of 30", ms(at(advices, 0.5)), "≤ 150 ms", at(advices, 0.5) <= 150],
  ["Data for the page's own engine, compressed", `${(pack / 1000).toFixed(0)} kB`, "≤ 1,500 kB", pack <= 1_500_000],
  ["Keeping a reading: median", ms(at(saves, 0.5)), "≤ 10 ms", at(saves, 0.5) <= 10],
  ["JavaScript of the bench page, compressed", `${(script / 1000).toFixed(0)} kB`, "≤ 195 kB", script <= 195_000],
  ["Largest paint, first open, uncached: worst of 5", ms(Math.max(...paints)), "≤ 1,500 ms", Math.max(...paints) <= 1500],
  ["Rig, throttle moving: updates a second of meter and scope", rig.rate.toFixed(1), "≥ 30", rig.rate >= 30],
  ["the same: longest the page was held up", rig.held === 0 ? "never over 50 ms" : ms(rig.held), "≤ 50 ms", rig.held <= 50],
  ["Requests that left the machine", String(strays.size), "0", strays.size === 0],
];
const table = [
  "| measured | value | must hold | |",
  "|---|---|---|---|",
  ...rows.map(([what, value, must, good]) => `| ${what} | ${value} | ${must} | ${good ? "holds" : "falls short"} |`),
].join("\n");
process.stdout.write(`${table}\n`);

const file = "docs/benchmarks.md";
const [start, end] = ["<!-- pages -->", "<!-- /pages -->"];
const text = readFileSync(file, "utf8");
const told = `${start}\n${table}\n\nNode ${process.version}, ${cpus().length} cores, Chromium headless, loopback, ${new Date().toISOString().slice(0, 10)}. 1,000 page answers and 200 savings one after the other after a warm-up of 300 and 20, each with its whole body read.\n${end}`;
writeFileSync(file, text.slice(0, text.indexOf(start)) + told + text.slice(text.indexOf(end) + end.length));
if (rows.some((row) => !row[3])) process.exitCode = 1;
