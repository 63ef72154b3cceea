// One hour of a logger at 1,000 samples a second, opened on the page of a job and dragged through: how long it takes to read, and how many
// frames a second are drawn while a hand drags. Prints a table and writes it to docs/benchmarks.md.
import { spawn, spawnSync } from "node:child_process";
import { createWriteStream, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { cpus, tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { tableOf, writeBlock } from "./table.mjs";

const folder = mkdtempSync(join(tmpdir(), "uvrel-hour-"));
const RATE = 1000;
const SECONDS = 3600;

/** Volts of a machine that rests, is cranked, idles, and is revved and let fall again for the rest of the hour, with ripple and a meter's noise. */
function voltsAt(time, noise) {
  if (time < 60) return 12.72 + noise;
  if (time < 61.5) return 10.4 - 1.6 * Math.exp(-(time - 60) / 0.05) + 0.25 * Math.sin(40 * time) + noise;
  const revved = Math.floor((time - 62) / 45) % 2 === 1;
  return (revved ? 14.3 + 0.08 * Math.sin(1900 * time) : 13.1 + 0.03 * Math.sin(700 * time)) + noise;
}

async function writeLog(file) {
  const out = createWriteStream(file);
  let seed = 1;
  out.write("time,volts\n");
  for (let second = 0; second < SECONDS; second++) {
    let rows = "";
    for (let k = 0; k < RATE; k++) {
      seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
      const time = second + k / RATE;
      rows += `${time.toFixed(3)},${voltsAt(time, 0.01 * (seed / 2_147_483_648 - 0.5)).toFixed(4)}\n`;
    }
    if (!out.write(rows)) await new Promise((resolve) => out.once("drain", resolve));
  }
  await new Promise((resolve) => out.end(resolve));
}

const log = join(folder, "hour.csv");
await writeLog(log);
const env = { ...process.env, UVREL_DATA: join(folder, "data"), PORT: "0", NODE_ENV: "production" };
const fill = spawnSync("node", ["build/tools/fill.js", "few"], { env, encoding: "utf8" });
if (fill.status !== 0) throw new Error(fill.stderr);
const server = spawn("node", ["scripts/serve.mjs"], { env });
const url = await new Promise((resolve) => server.stdout.on("data", (chunk) => resolve(/http:\S+/.exec(String(chunk))?.[0])));
const browser = await chromium.launch(JSON.parse(readFileSync("tests/chromium.json", "utf8")));
const tab = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await tab.goto(`${url}/jobs/${JSON.parse(fill.stdout).long}/traces`);
await tab.waitForLoadState("networkidle");

const opened = performance.now();
await tab.locator('input[type="file"]').setInputFiles(log);
await tab.getByText("3,600,000 samples,", { exact: false }).waitFor({ timeout: 120_000 });
const read = performance.now() - opened;
const chart = tab.getByRole("img", { name: /^hour\.csv/ });
await chart.locator("canvas").first().waitFor();
const drawn = performance.now() - opened;

/** Frames in which the chart's canvas was drawn anew, a second, and the longest the page was held up, while a hand drags. */
async function dragged() {
  const box = await chart.boundingBox();
  await tab.evaluate(() => {
    window.painted = 0;
    window.held = [0];
    const clear = CanvasRenderingContext2D.prototype.clearRect;
    let [frame, last] = [0, -1];
    const count = () => {
      frame++;
      requestAnimationFrame(count);
    };
    count();
    CanvasRenderingContext2D.prototype.clearRect = function (...of) {
      if (frame !== last) window.painted++;
      last = frame;
      return clear.apply(this, of);
    };
    new PerformanceObserver((list) => window.held.push(...list.getEntries().map((entry) => entry.duration))).observe({ type: "longtask" });
  });
  // A driver's own moves come no oftener than it is answered: the hand is moved in the page, at every frame.
  const rate = await tab.evaluate(
    ({ middle, y, forMs }) =>
      new Promise((resolve) => {
        const target = document.elementFromPoint(middle, y);
        const send = (type, x) => target.dispatchEvent(new MouseEvent(type, { bubbles: true, clientX: x, clientY: y, button: 0, buttons: 1 }));
        send("mousemove", middle);
        send("mousedown", middle);
        const [from, started] = [window.painted, performance.now()];
        const step = () => {
          const spent = performance.now() - started;
          if (spent < forMs) {
            send("mousemove", middle + 260 * Math.sin(spent / 600));
            return requestAnimationFrame(step);
          }
          send("mouseup", middle);
          resolve((window.painted - from) / (spent / 1000));
        };
        step();
      }),
    { middle: box.x + box.width / 2, y: box.y + box.height / 2, forMs: 5000 },
  );
  return { rate, held: await tab.evaluate(() => Math.max(...window.held)) };
}
// A tenth of the hour is on the chart while it is dragged.
for (let i = 0; i < 3; i++) await tab.getByRole("button", { name: "Closer" }).click();
await tab.waitForTimeout(1000);
const { rate, held } = await dragged();
await browser.close();
server.kill("SIGTERM");
rmSync(folder, { recursive: true });

const seconds = (value) => `${(value / 1000).toFixed(2)} s`;
const rows = [
  ["One hour at 1,000 a second (3.6 million samples) read out of its file on the page, phases found, with progress", seconds(read), "≤ 6 s", read <= 6000],
  ["the same, and its chart drawn", seconds(drawn), "", true],
  ["frames a second while it is dragged", rate.toFixed(1), "≥ 30", rate >= 30],
  ["the same: longest the page was held up", held === 0 ? "never over 50 ms" : `${held.toFixed(0)} ms`, "", true],
];
const table = tableOf("measured", rows);
process.stdout.write(`${table}\n`);
writeBlock("hour", `${table}\n\nNode ${process.version}, ${cpus().length} cores, Chromium headless, ${new Date().toISOString().slice(0, 10)}.`);
if (rows.some((row) => !row[3])) process.exitCode = 1;
