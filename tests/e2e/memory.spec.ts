import { readFileSync } from "node:fs";
import { expect, ready, test, violations } from "./workshop";

test("the day is planned: what hands turn to, a machine set for a time, one left out, hands and hours changed", async ({ shop: page, workshop }) => {
  await expect(page.getByText(/^(Turn to|Tomorrow first:)/)).toBeVisible();
  await page.goto(`${workshop.url}/day`);
  await ready(page);
  await expect(page.getByRole("heading", { level: 1, name: /^(Today|Tomorrow), / })).toBeVisible();

  await page.getByText("1 mechanic, 1 charger, 08:00 to 17:00").click();
  await page.getByLabel("Mechanics").fill("none");
  await page.getByRole("button", { name: "Plan with these" }).click();
  await expect(page.getByText("Must be a number from 1 to 20.")).toBeVisible();
  await expect(page.getByLabel("Mechanics")).toHaveValue("none");
  // Hours in which it is always today, whenever this runs.
  await page.getByLabel("Mechanics").fill("2");
  await page.getByLabel("From", { exact: true }).fill("00:00");
  await page.getByLabel("To", { exact: true }).fill("23:59");
  await page.getByRole("button", { name: "Plan with these" }).click();
  await expect(page.getByText("2 mechanics, 1 charger, 00:00 to 23:59")).toBeVisible();
  expect(await violations(page)).toEqual([]);

  const order = page.getByRole("listitem").filter({ has: page.getByText("move it") });
  const first = order.first();
  const name = ((await first.getByRole("link").textContent()) ?? "").replace(/ \(\d+\)$/, "");
  await first.getByText("move it").click();
  await first.getByRole("button", { name: "not today" }).click();
  await expect(page.getByText("Left out of the day:")).toBeVisible();
  await expect(page.getByRole("button", { name: "plan it again" })).toHaveCount(1);
  await page.getByRole("button", { name: "plan it again" }).click();
  await expect(page.getByText("Left out of the day:")).toBeHidden();

  const again = page
    .getByRole("listitem")
    .filter({ has: page.getByRole("link", { name: new RegExp(`^${name}`) }) })
    .first();
  await again.getByText("move it").click();
  await again.getByLabel(`${name} begins at`).fill("23:50");
  await again.getByRole("button", { name: "set", exact: true }).click();
  // Whether it still fits in is another matter; what was set is kept, and can be let go.
  await expect(again.getByText("set by hand").or(page.getByText(`Set by hand for 23:50: ${name}`))).toBeVisible();
  await expect(page.getByText("let the plan choose")).toHaveCount(1);
});

test("a machine's first work is moved along the line of the day by keys", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/day`);
  await ready(page);
  // Hours with room to move in, whenever this runs: the rest of today, or tomorrow's.
  await page.getByText(/mechanics?, 1 charger/).click();
  await page.getByLabel("From", { exact: true }).fill("00:00");
  const to = new Date().getHours() < 12 ? "23:58" : "10:00";
  await page.getByLabel("To", { exact: true }).fill(to);
  await page.getByRole("button", { name: "Plan with these" }).click();
  await expect(page.getByText(`1 charger, 00:00 to ${to}`)).toBeVisible();
  const line = page.getByRole("region", { name: "The line of the day" });
  const held = line.locator("button[aria-pressed=true]");
  // News may come between the two keys, and set the line anew.
  await expect(async () => {
    await line.getByRole("button").first().focus();
    await page.keyboard.press("Space");
    await expect(held).toBeVisible({ timeout: 5_000 });
  }).toPass();
  for (let k = 1; k <= 4; k++) {
    await page.keyboard.press("ArrowRight");
    await expect(held).toHaveAttribute("style", new RegExp(`translateX\\(${25 * k}px\\)`));
  }
  const begins = /\d\d:\d\d/.exec((await held.getAttribute("aria-label")) ?? "")?.[0];
  const sent = page.waitForRequest((request) => request.method() === "POST");
  await page.keyboard.press("Space");
  const form = new URLSearchParams((await sent).postData() ?? "");
  expect([form.get("intent"), (form.get("time") ?? "") > String(begins)]).toEqual(["set", true]);
  // One that is worked out meanwhile, and takes longer than was thought, may no longer fit in; what was set is said all the same.
  await expect(line.getByRole("button", { name: /set by hand$/ }).or(page.getByText(`Set by hand for ${form.get("time")}:`))).toBeVisible();
});

test("a machine's log tells what is coming, draws its tests, and goes out as a PDF", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/units/SK-305`);
  await ready(page);
  await expect(page.getByText(/^Crank dip falls 0\.\d+ V a year at 20 °C: below 10\.50 V by/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Crank dip" }).getByRole("row")).toHaveCount(9);
  await page
    .getByRole("navigation", { name: "Tests over the years" })
    .getByRole("link", { name: /^Rest volts/ })
    .click();
  await expect(page.getByRole("region", { name: "Rest volts" })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  const paper = await page.request.get(`${workshop.url}/units/SK-305/log.pdf`);
  expect(paper.headers()["content-type"]).toBe("application/pdf");
  expect((await paper.body()).subarray(0, 5).toString()).toBe("%PDF-");

  await page.getByRole("link", { name: "Take it in" }).click();
  await expect(page.getByRole("radio", { name: /SK-305/ })).toBeChecked();
  await ready(page);
  await page.getByLabel("Counter stands at").fill("a lot");
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page.getByText(/Must be a number from 0 to/)).toBeVisible();
  await page.getByLabel("Counter stands at").fill("742");
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page.getByRole("banner")).toContainText("Gannet");
  await page.goto(`${workshop.url}/units/SK-305`);
  await expect(page.getByText("742 h")).toBeVisible();
  await expect(page.getByRole("link", { name: "On the bench" })).toBeVisible();

  expect((await page.request.get(`${workshop.url}/units/nobody`)).status()).toBe(404);
  expect((await page.request.get(`${workshop.url}/jobs/9999/report.pdf`)).status()).toBe(404);
});

test("records are found by words and figures, counted, and asked again under a name", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/records`);
  await ready(page);
  const words = page.getByLabel(/^Words:/);
  await words.fill("radar squeals");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 job fit", { exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "SK-310" })).toBeVisible();

  await words.fill("");
  await page.getByText("Narrow it").click();
  await page.getByLabel("Most", { exact: true }).fill("9");
  await page.getByRole("button", { name: "Look" }).click();
  await expect(page.getByText("Pick the test that the figures are of.")).toBeVisible();
  await expect(page.getByLabel("Most", { exact: true })).toHaveValue("9");
  await page.getByLabel("With a reading of").selectOption("charge.volts");
  await page.getByLabel("Most", { exact: true }).fill("");
  await page.getByLabel("Least").fill("15,5");
  await page.getByRole("button", { name: "Look" }).click();
  await expect(page.getByText(/^\d jobs? fit$/)).toBeVisible();
  await expect(page.getByRole("link", { name: "SK-206" }).first()).toBeVisible();
  expect(await violations(page)).toEqual([]);

  await page.getByRole("button", { name: "Keep the question" }).click();
  await expect(page.getByText("Give the question a name.")).toBeVisible();
  await page.getByLabel("Ask this again under the name").fill("Boiled");
  await page.getByRole("button", { name: "Keep the question" }).click();
  await expect(page.getByRole("link", { name: "Boiled", exact: true })).toBeVisible();
  await page.goto(`${workshop.url}/records`);
  await ready(page);
  await page.getByRole("link", { name: "Boiled", exact: true }).click();
  await expect(page).toHaveURL(/test=charge\.volts/);
  await page.getByRole("button", { name: "Drop the question Boiled" }).click();
  await expect(page.getByRole("link", { name: "Boiled", exact: true })).toBeHidden();

  await page.goto(`${workshop.url}/records?show=counts`);
  await expect(page.getByRole("img", { name: /^What failed on what/ })).toBeVisible();
  await expect(page.getByRole("img", { name: /^Odds stated against what turned out/ })).toBeVisible();
  await expect(page.getByText(/Battery mended for nothing/)).toBeVisible();
  await page.waitForLoadState("networkidle");
  expect(await violations(page)).toEqual([]);
  await page.getByLabel(/^Words:/).fill("nothing like it");
  await page.getByRole("button", { name: "Look" }).click();
  await expect(page.getByText("Nothing to count yet.")).toBeVisible();
});

test("tables go out, are changed outside, looked through row by row and brought in once", async ({ shop: page, workshop }) => {
  const units = await (await page.request.get(`${workshop.url}/export/units.csv`)).text();
  expect(units).toContain("SK-102,Postie,corvane-ferrel-650");
  await page.goto(`${workshop.url}/records/out`);
  await ready(page);
  const download = page.waitForEvent("download");
  await page
    .getByRole("row", { name: /^Readings/ })
    .getByRole("link", { name: "Parquet" })
    .click();
  expect(
    readFileSync(await (await download).path())
      .subarray(0, 4)
      .toString(),
  ).toBe("PAR1");

  const choose = async (text: string): Promise<void> => {
    await page.getByLabel("Table (.csv, .ndjson, .parquet)").setInputFiles({ name: "units.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
    await page.getByRole("button", { name: "Look it through" }).click();
  };
  await choose("a,b\r\n1,2\r\n");
  await expect(page.getByText(/has the columns a, b, which are those of no table/)).toBeVisible();
  const more = `${units}X-1,Stray,no-such-sheet,\r\nX-2,Puffin,corvane-ferrel-650,ferry queue\r\n`;
  await choose(more);
  await expect(page.getByText(/names the sheet no-such-sheet, which is not on the shelf/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Bring 1 in" }).click();
  await expect(page.getByText(/Machines: 1 new, 0 changed, 18 were here already\./)).toBeVisible();
  await choose(more);
  await expect(page.getByText("Nothing would change.")).toBeVisible();
  expect((await page.request.get(`${workshop.url}/units/X-2`)).status()).toBe(200);
  expect((await page.request.get(`${workshop.url}/export/nothing.csv`)).status()).toBe(404);
  expect((await page.request.get(`${workshop.url}/export/jobs.csv?kind=plane`)).status()).toBe(400);
});

test("what the shop has learned is shown and switched off", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/settings`);
  await page.getByRole("link", { name: "What the shop has learned from its own work" }).click();
  await ready(page);
  await expect(page.getByText(/^17 proven repairs of 11 models/)).toBeVisible();
  await page.getByRole("checkbox", { name: /Confirmed repairs lean/ }).uncheck();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText(/Switched off: nothing of it is used\./)).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test("an empty workshop has no plan, no records and has learned nothing, and says so", async ({ page, empty }) => {
  await page.goto(`${empty.url}/day`);
  await expect(page.getByText("The rail is empty: nothing to plan.")).toBeVisible();
  await page.goto(`${empty.url}/records`);
  await expect(page.getByText("No job yet. Every job that is taken in is found here.")).toBeVisible();
  await page.goto(`${empty.url}/records?show=counts`);
  await expect(page.getByText("Nothing to count yet.")).toBeVisible();
  await page.goto(`${empty.url}/learned`);
  await expect(page.getByText("No repair has been proven yet.")).toBeVisible();
  await page.goto(`${empty.url}/traces`);
  await expect(page.getByText("No trace is kept with any job yet.")).toBeVisible();
});

test("by thumb on a phone: the day's order, a machine's log and the records read without scrolling sideways", async ({ browser, workshop }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  for (const path of ["/day", "/units/SK-305", "/records", "/records?show=counts", "/records/out", "/learned", "/traces"]) {
    await page.goto(workshop.url + path);
    await page.waitForLoadState("networkidle");
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect({ path, wide }).toEqual({ path, wide: 0 });
    expect({ path, found: await violations(page) }).toEqual({ path, found: [] });
  }
  await context.close();
});
