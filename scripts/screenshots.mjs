// Takes the pictures of the main views from demo data, into docs/screenshots.
import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";

const env = { ...process.env, UVREL_DATA: mkdtempSync(join(tmpdir(), "uvrel-pictures-")), PORT: "0", NODE_ENV: "production" };
for (const tool of ["seed", "advise"]) if (spawnSync("node", [`build/tools/${tool}.js`], { env, stdio: "inherit" }).status !== 0) process.exit(1);
const server = spawn("node", ["scripts/serve.mjs"], { env });
const url = await new Promise((resolve) => server.stdout.on("data", (chunk) => resolve(/http:\S+/.exec(String(chunk))?.[0])));

const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

/** Name, path (a machine's tag stands for its job), size, theme, and what is typed before the picture. */
const PICTURES = [
  ["rail", "/", WIDE, "light"],
  ["intake", "/jobs/new", WIDE, "light"],
  ["bench", "SK-114?step=stator.toGround~2", WIDE, "light"],
  ["bench-night", "SK-207?step=stator.acVolts~1-2~5000", WIDE, "dark", "31.5"],
  ["bench-phone", "SK-207?step=stator.acVolts~1-2~5000", PHONE, "light", "31.5"],
  ["bench-launch", "SK-310?step=field.fullField~~3000", WIDE, "light"],
  ["bench-generator", "SK-117?step=generator.output~~idle", WIDE, "dark"],
  ["drain", "SK-207/drain", WIDE, "light"],
  ["sweep", "SK-207/sweep", WIDE, "light"],
  ["verdict", "SK-133/verdict", WIDE, "light"],
  ["verdict-phone", "SK-133/verdict", PHONE, "light"],
  ["report", "SK-206/report", WIDE, "light"],
  ["sheet", "/machines/ostrel-burro-520", WIDE, "light"],
  ["rig", "/rig?sheet=corvane-ferrel-650&rpm=4000&fault=regulator.diode-open,at=1>B%2B&dial=V+AC&red=unitLeg:1&black=B-", WIDE, "light"],
  ["shop", "/settings", WIDE, "light"],
  ["day", "/day", WIDE, "light"],
  ["unit", "/units/SK-305", WIDE, "light"],
  ["records", "/records?words=flat", WIDE, "light"],
  ["counts", "/records?show=counts", WIDE, "dark"],
];

const browser = await chromium.launch(JSON.parse(readFileSync("tests/chromium.json", "utf8")));
for (const [name, path, viewport, colorScheme, typed] of PICTURES) {
  const context = await browser.newContext({ viewport, colorScheme, hasTouch: viewport === PHONE });
  const page = await context.newPage();
  await page.goto(url + (await address(page, path)));
  await page.waitForLoadState("networkidle");
  // Tags that take long are drawn behind the page: the rail is looked at again until all hang.
  while (name === "rail" && (await page.getByText("Being worked out").count()) > 0) {
    await page.waitForTimeout(1000);
    await page.reload({ waitUntil: "networkidle" });
  }
  // Bench, verdict and report are shown with their odds, which come a few seconds after the page; a phone's bench names them in its bar.
  if (/^SK-\d+/.test(path)) await page.waitForFunction(() => !/The fixed\s+order serves/.test(document.body.textContent ?? ""), null, { timeout: 60_000 });
  if (/^SK-\d+($|\?)/.test(path))
    await page.waitForFunction(() => /\d %|in 10|in 20|Nothing stands out/.test(document.body.textContent ?? ""), null, { timeout: 60_000 });
  // What each reading says by itself follows when the hand rests.
  if (/^SK-/.test(path)) await page.waitForTimeout(2000);
  if (typed) await page.keyboard.type(typed);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await context.close();
}
await browser.close();
server.kill("SIGTERM");

/** A path that begins with a tag leads to that machine's job. */
async function address(page, path) {
  const tag = /^SK-\d+/.exec(path)?.[0];
  if (!tag) return path;
  await page.goto(url);
  const href = await page.locator(`a[href^="/jobs/"]:has-text("${tag}")`).first().getAttribute("href");
  return href.replace(/\/(report|verdict)$/, "") + path.slice(tag.length);
}
