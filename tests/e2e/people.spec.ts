import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, type Page } from "@playwright/test";
import { expect, jobOf, ready, serve, tool, violations, type Workshop } from "./workshop";

/** Who is asked, who gets in, and what they did. */

const PASSWORD = "halyard and sheave";

/** A workshop that is reached under a name of its own, as behind a proxy, with one person who may sign in. */
const test = base.extend<object, { reached: Workshop }>({
  reached: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the names of the first argument
    async ({}, use) => {
      const data = mkdtempSync(join(tmpdir(), "uvrel-people-"));
      tool("build/tools/seed.js", [], { UVREL_DATA: data });
      expect(tool("bin/uvrel.mjs", ["person", "add", "Ailsa"], { UVREL_DATA: data }, `${PASSWORD}\n`).stdout).toBe("Ailsa may sign in.\n");
      const { child, url, says, code } = await serve({ UVREL_DATA: data, PORT: "0", UVREL_HOSTS: "uvrel.test" });
      expect(says()).toContain("has to sign in: 1 person may.");
      const stop = async (): Promise<void> => {
        child.kill("SIGTERM");
        await code;
      };
      await use({ url, data, stop, again: async () => undefined });
      await stop();
    },
    { scope: "worker" },
  ],
});

async function signIn(page: Page, name: string, password: string): Promise<void> {
  await ready(page);
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Password").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
}

test("nothing but the sign-in page and the program's own files is to be had without a session", async ({ request, reached }) => {
  for (const path of ["/", "/jobs/1", "/jobs/1/case.json", "/machines", "/settings", "/rig", "/jobs/1/report", "/backups/x", "/nowhere"]) {
    const page = await request.get(reached.url + path, { maxRedirects: 0, headers: { Accept: "text/html" } });
    expect([path, page.status(), page.headers().location]).toEqual([path, 303, `/sign-in?back=${encodeURIComponent(path)}`]);
    const data = await request.get(`${reached.url}${path === "/" ? "/_root" : path}.data`, { maxRedirects: 0, headers: { Accept: "*/*" } });
    expect([path, data.status()]).toEqual([path, 401]);
  }
  const same = { Origin: reached.url, "Sec-Fetch-Site": "same-origin" };
  for (const path of ["/jobs/1/entries", "/settings", "/sign-out", "/jobs/new"]) {
    const posted = await request.post(reached.url + path, { headers: { ...same, Accept: "*/*" }, form: { name: "x" } });
    expect([path, posted.status()]).toEqual([path, 401]);
  }
});

test("somebody signs in, works under a name, and signs out", async ({ page, reached }) => {
  await page.goto(`${reached.url}/machines`);
  await expect(page).toHaveURL(/\/sign-in\?back=%2Fmachines$/);
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    expect(await violations(page)).toEqual([]);
  }
  await signIn(page, "Ailsa", "not the password");
  await expect(page.getByText("That name and password do not go together.")).toBeVisible();
  await expect(page.getByLabel("Name")).toHaveValue("Ailsa");
  await signIn(page, "ailsa", PASSWORD);
  await expect(page).toHaveURL(`${reached.url}/machines`);
  const cookie = (await page.context().cookies()).find(({ name }) => name === "uvrel-session");
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: "Strict", path: "/" });

  const job = await jobOf(page, reached, "SK-121");
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await page.getByLabel(/What the meter shows/).fill("12.44");
  await page.keyboard.press("Enter");
  await expect(page.getByText("not yet sent")).toHaveCount(0);
  await page.goto(`${job}/report`);
  await expect(page.getByRole("row", { name: /Rest volts, Ailsa 12.44 V/ })).toBeVisible();

  await page.goto(`${reached.url}/settings`);
  await ready(page);
  await page.getByRole("main").getByRole("button", { name: "Sign out" }).click();
  await expect(page).toHaveURL(/\/sign-in$/);
  // The cookie that somebody kept is worth nothing any more.
  await page.context().addCookies(cookie ? [cookie] : []);
  await page.goto(`${reached.url}/machines`);
  await expect(page).toHaveURL(/\/sign-in/);
});

test("a session that ends while a reading is typed loses none: it waits, says for what, and goes out after the next sign-in", async ({ page, reached }) => {
  await page.goto(reached.url);
  await signIn(page, "Ailsa", PASSWORD);
  await expect(page.getByRole("link", { name: "Take in a machine" })).toBeVisible();
  const job = await jobOf(page, reached, "SK-114");
  await page.goto(`${job}?step=battery.settled`);
  await ready(page);
  await page.context().clearCookies();
  await page.getByLabel(/What the meter shows/).fill("12.11");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 not yet sent")).toBeVisible();
  await page.goto(job);
  await signIn(page, "Ailsa", PASSWORD);
  await expect(page.getByText("not yet sent")).toHaveCount(0);
  const file = await page.request.get(`${job}/case.json`);
  const { readings } = (await file.json()) as { readings: { test: string; value: unknown }[] };
  expect(readings.filter((reading) => reading.test === "battery.settled" && reading.value === 12.11)).toHaveLength(1);
});

test("guessing is stopped, whoever's name it is, and nobody is told whether a name exists", async ({ page, reached }) => {
  await page.goto(`${reached.url}/sign-in`);
  await signIn(page, "Nobody", "guess number 0");
  await expect(page.getByText("That name and password do not go together.")).toBeVisible();
  for (let guess = 1; guess < 12; guess++) {
    await page.getByLabel("Password").fill(`guess number ${guess}`);
    const answered = page.waitForResponse((response) => response.request().method() === "POST");
    await page.getByRole("button", { name: "Sign in" }).click();
    await answered;
  }
  await expect(page.getByText(/^Too many tries\. Wait \d+ min/)).toBeVisible();
});
