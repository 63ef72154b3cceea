import { expect, jobOf, ready, test } from "./workshop";

test("a mistyped reading is corrected and the old one stays in the record", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-302");
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await expect(page.getByText("11.69 V kept")).toBeVisible();
  await page.keyboard.type("11.26");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("navigation", { name: "Run list" })).toContainText("11.26");
  await page.goto(`${job}?step=battery.rest`);
  await expect(page.getByText("11.26 V kept")).toBeVisible();
  await expect(page.getByText("Earlier: 11.69 V (mistyped).")).toBeVisible();

  // Taken again after a charge: the trail grows, and says why.
  await ready(page);
  await page.getByLabel("taken again").check();
  await page.getByLabel(/What the meter shows/).fill("12.7");
  await page.getByLabel(/What the meter shows/).press("Enter");
  await page.goto(`${job}?step=battery.rest`);
  await expect(page.getByText("Earlier: 11.26 V (before it was taken again), 11.69 V (mistyped).")).toBeVisible();
});

test("bad input is refused with what is allowed, and what was typed stays", async ({ shop: page, workshop }) => {
  await page.goto(`${await jobOf(page, workshop, "SK-121")}?step=battery.rest`);
  await ready(page);
  const field = page.getByLabel(/What the meter shows/);
  const alert = page.locator("#entry-says");
  for (const [typed, says] of [
    ["abc", "“abc” is not a number"],
    ["1e9", "cannot be. Allowed: -20.00 V to 80.00 V"],
    ["0.4 Ω", "this test is read in volts DC"],
    ["12.6.1", "is not a number"],
  ] as const) {
    await field.fill(typed);
    await field.press("Enter");
    await expect(alert).toContainText(says);
    await expect(field).toHaveValue(typed);
    await expect(field).toHaveAttribute("aria-invalid", "true");
  }
  await field.fill("");
  await field.press("Enter");
  await expect(alert).toContainText("Nothing was typed");

  // Unlikely, but possible: one question, then kept.
  await field.fill("1.9");
  await field.press("Enter");
  await expect(alert).toContainText("unlikely here");
  await page.getByRole("button", { name: "Type again" }).click();
  await expect(field).toHaveValue("");
  await field.fill("12,71");
  await field.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Settled volts, key and lights on");
  await expect(page.getByRole("navigation", { name: "Run list" })).toContainText("12.71");

  await page.getByLabel("read at").waitFor({ state: "detached" });
  await page.goto(page.url().replace(/step=.*/, `step=${encodeURIComponent("charge.volts~~5000~normal")}`));
  await ready(page);
  await page.getByLabel("read at").fill("many");
  await field.fill("14.2");
  await field.press("Enter");
  await expect(alert).toContainText("Rpm must be a whole number from 100 to 20,000");
  await expect(field).toHaveValue("14.2");
});

test("a 12 kΩ pair is asked about once and then kept", async ({ shop: page, workshop }) => {
  await page.goto(`${await jobOf(page, workshop, "SK-121")}?step=${encodeURIComponent("stator.resistance~2-3")}`);
  await ready(page);
  await page.keyboard.type("12k");
  await page.keyboard.press("Enter");
  await expect(page.locator("#entry-says")).toContainText("12k Ω is unlikely here");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("navigation", { name: "Run list" })).toContainText("12.5k");
});

test("a reload in the middle of an entry keeps what was typed; going back keeps what was kept", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-207");
  await page.goto(job);
  await ready(page);
  await page.keyboard.type("31.");
  await page.reload();
  await ready(page);
  const field = page.getByLabel(/What the meter shows/);
  await expect(field).toHaveValue("31.");
  await field.press("End");
  await page.keyboard.type("5");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Pair 2–3 AC volts, 5,000 rpm");
  await page.goBack();
  await expect(page.getByText("31.5")).not.toHaveCount(0);
  await page.reload();
  await expect(page.getByRole("navigation", { name: "Run list" })).toContainText("31.5");
});

test("with the server gone readings wait, are counted, and are sent by themselves", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-114");
  await page.goto(job);
  await ready(page);
  await workshop.stop();
  await page.keyboard.type("18.2");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 not yet sent")).toBeVisible();
  await page.keyboard.type("18.3");
  await page.keyboard.press("Enter");
  await expect(page.getByText("2 not yet sent")).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Pair 3–1 AC volts, idle");
  await workshop.again();
  await expect(page.getByText("not yet sent")).toBeHidden();
  await page.goto(job);
  await expect(page.getByRole("link", { name: /Pair 1–2 AC volts, idle: 18.2/ })).toBeVisible();
  await expect(page.getByRole("link", { name: /Pair 2–3 AC volts, idle: 18.3/ })).toBeVisible();
});

test("a reading can be kept before the page's script has arrived", async ({ browser, workshop }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto(workshop.url);
  await page.getByRole("link", { name: /SK-121/ }).click();
  await page.goto(`${page.url()}?step=battery.settled`);
  await page.getByLabel(/What the meter shows/).fill("lots");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByRole("alert").first()).toBeAttached();
  await page.goto(`${page.url().split("?")[0]}?step=battery.settled`);
  await page.getByLabel(/What the meter shows/).fill("12,38");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByRole("navigation", { name: "Run list" })).toContainText("12.38");
  await context.close();
});

test("a closed job can be looked at, not added to, and opened again", async ({ shop: page, workshop }) => {
  await page.getByRole("link", { name: /SK-206/ }).click();
  await expect(page).toHaveURL(/\/report$/);
  const bench = page.url().replace("/report", "");
  await page.goto(bench);
  await expect(page.getByText("This job is closed")).toBeVisible();
  await expect(page.getByLabel(/What the meter shows/)).toHaveCount(0);
  const id = bench.split("/").at(-1);
  const answer = await page.evaluate(
    async (path) =>
      (
        await fetch(path, {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ kind: "skip", skip: { id: "skip-e2e-1", step: "battery.rest", reason: "late" } }),
        })
      ).json(),
    `/jobs/${id}/entries`,
  );
  expect(answer).toMatchObject({ kept: false, error: expect.stringContaining("closed") });
  await page.goto(`${workshop.url}/jobs/${id}/verdict`);
  await page.getByRole("button", { name: "Open this job again" }).click();
  await page.getByRole("button", { name: "Leave it closed" }).click();
  await page.getByRole("button", { name: "Open this job again" }).click();
  await page.getByRole("button", { name: "Yes, open it" }).click();
  await expect(page.getByRole("heading", { name: "Close the job" })).toBeVisible();
  await page.goto(bench);
  await expect(page.getByText("This job is closed")).toHaveCount(0);
});

test("two hands correcting one reading: the second is told, and can set its own aside", async ({ shop: page, workshop, browser }) => {
  const address = `${await jobOf(page, workshop, "SK-102")}?step=battery.crank`;
  const other = await (await browser.newContext()).newPage();
  for (const hand of [page, other]) {
    await hand.goto(address);
    await ready(hand);
    await expect(hand.getByText("10.63 V kept")).toBeVisible();
  }
  await page.keyboard.type("10.6");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).not.toHaveText("Crank dip");
  await other.keyboard.type("10.5");
  await other.keyboard.press("Enter");
  await expect(other.getByText("Not kept: Crank dip 10.50 V. This reading was corrected meanwhile")).toBeVisible();
  await other.getByRole("button", { name: "Set aside" }).click();
  await expect(other.getByText("Not kept:")).toHaveCount(0);
  await other.goto(address);
  await expect(other.getByText("10.60 V kept")).toBeVisible();
  await expect(other.getByText("Earlier: 10.63 V (mistyped).")).toBeVisible();
  await other.context().close();
});

test("the report prints without the bar, black on white", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-206");
  await page.goto(`${job.replace(/\/(report|verdict)$/, "")}/report`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Regulator/rectifier");
  await page.emulateMedia({ media: "print", colorScheme: "dark" });
  await expect(page.getByRole("banner")).toBeHidden();
  expect(await page.evaluate(() => getComputedStyle(document.documentElement).backgroundColor)).toBe("rgb(255, 255, 255)");
  await expect(page.getByText("Lamps burn out")).toBeVisible();
});

test("the real rpm, a hot winding and a skipped step all stand in the report", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-302");
  await page.goto(`${job}?step=${encodeURIComponent("charge.volts~~3000~all")}`);
  await ready(page);
  await page.getByLabel("read at").fill("3200");
  await page.getByLabel(/What the meter shows/).fill("12.9");
  await page.getByLabel(/What the meter shows/).press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).not.toHaveText(/all loads/);
  await page.goto(`${job}?step=${encodeURIComponent("stator.resistance~1-2")}`);
  await ready(page);
  await page.getByLabel("winding hot").check();
  await page.getByLabel(/What the meter shows/).fill("1.4");
  await expect(page.locator("figure")).toContainText("taken at 85 °C, referred to 20 °C");
  await page.getByLabel(/What the meter shows/).press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Pair 2–3 ohms");
  await page.getByRole("button", { name: /Skip with a reason/ }).click();
  await page.getByLabel("Another reason").fill("  ");
  await page.getByRole("button", { name: "Skip with this reason" }).click();
  await expect(page.getByText("Give a reason in a word or two")).toBeVisible();
  await page.getByLabel("Another reason").fill("Plug will not part");
  await page.getByRole("button", { name: "Skip with this reason" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Pair 3–1 ohms");
  await expect(page.getByText("not yet sent")).toHaveCount(0);
  await page.goto(`${job}/report`);
  await expect(page.getByRole("row", { name: /Charging volts at the battery, 3,200 rpm, all loads/ })).toContainText("12.90 V");
  await expect(page.getByRole("row", { name: /Pair 1–2 ohms/ })).toContainText("referred to 20 °C");
  await expect(page.getByText("Pair 2–3 ohms: Plug will not part")).toBeVisible();
});

test("a job closed with the line down is closed once its last reading is sent", async ({ shop: page, workshop }) => {
  await page.goto(`${await jobOf(page, workshop, "SK-114")}/verdict`);
  await ready(page);
  await page.getByLabel("Part").selectOption("stator");
  await page.getByLabel("What was done").fill("Stator renewed.");
  await page.getByRole("button", { name: "Record the repair" }).click();
  await expect(page.getByText("Stator renewed.")).toBeVisible();
  const proof = page.getByLabel(/^Charging.* 5,000 rpm after/);
  await workshop.stop();
  await proof.fill("14.2");
  await proof.press("Enter");
  await page.getByLabel("How it ends").selectOption("unproven");
  await page.getByLabel("Note for next time").fill("Line was down.");
  await page.getByLabel("Note for next time").press("Enter");
  await expect(page.getByText("It closes by itself once the last reading is sent.")).toBeVisible();
  await expect(page.getByLabel("Note for next time")).toHaveValue("Line was down.");
  await workshop.again();
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText(/Line was down/)).toBeVisible();
  await expect(page.getByRole("row", { name: /^Charging/ }).filter({ hasText: "14.20" })).not.toHaveCount(0);
});
