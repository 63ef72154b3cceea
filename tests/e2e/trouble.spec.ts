import { mkdtempSync, openSync, readdirSync, renameSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { expect, jobOf, ready, serve, test, tool } from "./workshop";

/** What can happen to the database while people work, and to a sheet that two hands change. */

test("a database that another program holds stops nobody who only looks, and what is typed waits", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  const other = new Database(join(workshop.data, "uvrel.sqlite"));
  other.exec("BEGIN IMMEDIATE");
  await page.getByLabel(/What the meter shows/).fill("12.45");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 not yet sent")).toBeVisible();
  const begun = Date.now();
  const rail = await page.request.get(workshop.url);
  expect(rail.status()).toBe(200);
  // A write that waits holds up no page: far less than the whole time it is tried for.
  expect(Date.now() - begun).toBeLessThan(2000);
  const answered = await page.waitForResponse((response) => response.url().endsWith("/entries"));
  expect(answered.status()).toBe(503);
  expect(await answered.json()).toMatchObject({ kept: false, later: true, error: "Another program holds the database. Nothing was changed." });
  other.exec("COMMIT");
  other.close();
  await expect(page.getByText("not yet sent")).toHaveCount(0);
});

test("a form that the database does not take stays as it was typed and says so", async ({ page, workshop }) => {
  await page.goto(`${workshop.url}/settings`);
  await ready(page);
  const other = new Database(join(workshop.data, "uvrel.sqlite"));
  other.exec("BEGIN IMMEDIATE");
  await page.getByLabel("Name, as it stands on reports").fill("Skellin Isles, the mole");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText(/^Not sent: the server could not take it just now/)).toBeVisible();
  await expect(page.getByLabel("Name, as it stands on reports")).toHaveValue("Skellin Isles, the mole");
  other.exec("COMMIT");
  other.close();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText(/^(Not sent|Being sent again)/)).toHaveCount(0);
  await page.goto(workshop.url);
  await expect(page.getByRole("heading", { name: "Skellin Isles, the mole" })).toBeVisible();
});

test("a reading is not typed into a page whose script has not arrived: it would be gone with it", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  let arrive = (): void => undefined;
  const arrived = new Promise<void>((resolve) => {
    arrive = resolve;
  });
  await page.route(/\.js$/, async (route) => {
    await arrived;
    await route.continue();
  });
  await page.goto(`${job}/sweep`, { waitUntil: "commit" });
  await page.getByText("Ripple, output, just stopped").click();
  const field = page.getByLabel("Just stopped, within ten seconds, in V");
  await expect(field).not.toBeEditable();
  await field.press("Enter");
  expect(page.url()).toBe(`${job}/sweep`);
  arrive();
  await ready(page);
  await expect(field).toBeEditable();
  await field.fill("13.1");
  await field.press("Enter");
  await expect(field).toHaveValue("");
  await expect.poll(async () => (await page.request.get(`${job}/case.json`)).text()).toContain("13.1");
});

test("two hands on one sheet: the second is shown what differs, and decides", async ({ page, workshop }) => {
  const edit = `${workshop.url}/machines/brannoch-corrie-600/edit`;
  const other = await page.context().newPage();
  await page.goto(edit);
  await other.goto(edit);
  await ready(page);
  await ready(other);
  await page.getByLabel("Idle rpm").fill("1310");
  await page.getByRole("button", { name: "Keep the sheet" }).click();
  await expect(page).toHaveURL(/brannoch-corrie-600$/);
  await other.getByLabel("Idle rpm").fill("1290");
  await other.getByRole("button", { name: "Keep the sheet" }).click();
  await expect(other.getByText(/was changed on another screen while you wrote/)).toBeVisible();
  await expect(other.getByRole("row", { name: "idle rpm 1310 1290" })).toBeInViewport();
  await expect(other.getByLabel("Idle rpm")).toHaveValue("1290");
  await other.getByRole("button", { name: "Keep mine all the same" }).click();
  await expect(other).toHaveURL(/brannoch-corrie-600$/);
  await other.goto(edit);
  await expect(other.getByLabel("Idle rpm")).toHaveValue("1290");
});

test("backups: one by hand, whole and to take away; the rule is kept, and refused where it is none", async ({ page, workshop }) => {
  await page.goto(`${workshop.url}/settings`);
  await ready(page);
  await expect(page.getByText("There is none yet.")).toBeVisible();
  await page.getByRole("button", { name: "Back up now" }).click();
  await expect(page.getByText("by hand, kept until somebody takes it away")).toBeVisible();
  const [name] = readdirSync(join(workshop.data, "backups"));
  const taken = await page.request.get(`${workshop.url}/backups/${name}`);
  expect(taken.headers()["content-disposition"]).toBe(`attachment; filename="${name}"`);
  expect((await taken.body()).subarray(0, 15).toString()).toBe("SQLite format 3");
  expect((await page.request.get(`${workshop.url}/backups/..%2Fuvrel.sqlite`)).status()).toBe(404);
  await page.getByLabel("Days kept").fill("often");
  await page.getByRole("button", { name: "Keep this rule" }).click();
  await expect(page.getByText("Must be a whole number of days from 0 to 60.")).toBeVisible();
  await page.getByLabel("Days kept").fill("3");
  await page.getByRole("button", { name: "Keep this rule" }).click();
  await expect(page.getByText("Must be a whole number")).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel("Days kept")).toHaveValue("3");
  // What was taken away is restored into another folder, whole.
  const fresh = mkdtempSync(join(tmpdir(), "uvrel-restored-"));
  const restored = tool("bin/uvrel.mjs", ["restore", join(workshop.data, "backups", String(name))], { UVREL_DATA: fresh });
  expect(restored.stdout).toMatch(/^Restored \d+ jobs, \d+ readings, \d+ repairs/);
});

test("a data folder that goes away while Uvrel runs: every write says so", async ({ request }) => {
  const data = mkdtempSync(join(tmpdir(), "uvrel-gone-"));
  tool("build/tools/seed.js", [], { UVREL_DATA: data });
  const { child, url, code } = await serve({ UVREL_DATA: data, PORT: "0" });
  renameSync(data, `${data}-moved`);
  const reading = { id: "reading-0001", test: "battery.rest", value: 12.4, takenAt: new Date().toISOString() };
  const answer = await request.post(`${url}/jobs/1/entries`, {
    headers: { Origin: url, "Sec-Fetch-Site": "same-origin" },
    data: { kind: "reading", reading },
  });
  expect(answer.status()).toBe(503);
  expect(await answer.json()).toMatchObject({ kept: false, error: expect.stringMatching(/is gone or another stands in its place/) });
  child.kill("SIGTERM");
  await code;
});

test("damage that a page comes upon stops every page and names the backup to restore", async ({ request }) => {
  const data = mkdtempSync(join(tmpdir(), "uvrel-damaged-"));
  tool("build/tools/seed.js", [], { UVREL_DATA: data });
  expect(tool("bin/uvrel.mjs", ["backup", join(data, "mine.sqlite")], { UVREL_DATA: data }).status).toBe(0);
  const { child, url, code } = await serve({ UVREL_DATA: data, PORT: "0" });
  await request.post(`${url}/settings`, { headers: { Origin: url, "Sec-Fetch-Site": "same-origin" }, form: { intent: "backup-now" } });
  const db = new Database(join(data, "uvrel.sqlite"));
  db.pragma("wal_checkpoint(TRUNCATE)");
  const pages = db.pragma("page_count", { simple: true }) as number;
  db.close();
  const file = openSync(join(data, "uvrel.sqlite"), "r+");
  for (let page = 1; page < pages; page++) writeSync(file, Buffer.alloc(3000, 0x5a), 0, 3000, page * 4096 + 8);
  await expect
    .poll(async () => {
      await request.get(`${url}/machines`);
      const rail = await request.get(url);
      return rail.status() === 503 ? await rail.text() : rail.status();
    })
    .toMatch(/^The database is damaged .*Nothing is read or written any more\. Stop Uvrel and restore the latest backup: uvrel restore .*-by-hand\.sqlite$/);
  child.kill("SIGTERM");
  await code;
});
