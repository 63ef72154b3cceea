import { expect, jobOf, ready, test, violations } from "./workshop";

for (const colorScheme of ["light", "dark"] as const) {
  for (const viewport of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    test(`every screen, ${colorScheme}, ${viewport.width} wide: nothing for axe to find`, async ({ browser, workshop }) => {
      const context = await browser.newContext({ colorScheme, viewport });
      const page = await context.newPage();
      const job = (await jobOf(page, workshop, "SK-109")).replace(workshop.url, "");
      const grounded = (await jobOf(page, workshop, "SK-114")).replace(workshop.url, "");
      const paths = [
        "/",
        "/jobs/new",
        "/jobs/import",
        "/rig?sheet=corvane-ferrel-650&fault=stator.winding-grounded&unplug=stator",
        job,
        `${job}?step=regulator.diode~1%3EB%2B`,
        grounded,
        `${grounded}?step=inspect.terminals`,
        `${grounded}?step=battery.crank`,
        `${job}/verdict`,
        `${job}/report`,
        "/machines",
        "/machines/new",
        "/machines/brannoch-corrie-600",
        "/machines/brannoch-corrie-600/edit",
        "/settings",
        "/day",
        "/units/SK-305",
        "/records",
        "/traces",
        "/records?show=counts",
        "/records/out",
        "/learned",
        "/nowhere",
      ];
      for (const path of paths) {
        await page.goto(workshop.url + path);
        await page.waitForLoadState("networkidle");
        expect({ path, found: await violations(page) }).toEqual({ path, found: [] });
      }
      await page.goto(workshop.url + job);
      await ready(page);
      await page.keyboard.press("n");
      await expect(page.getByRole("dialog")).toBeVisible();
      expect(await violations(page)).toEqual([]);
      await context.close();
    });
  }
}

test("an empty workshop says what to do on every screen", async ({ page, empty }) => {
  await page.goto(empty.url);
  await expect(page.getByText("The rail is empty.")).toBeVisible();
  await page.goto(`${empty.url}/machines`);
  await expect(page.getByText("No sheet on the shelf yet")).toBeVisible();
  await page.goto(`${empty.url}/jobs/new`);
  await ready(page);
  await page.getByText("6 V, no sheet").first().click();
  await page.getByLabel("Nickname").fill("Old parade bike");
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page.getByRole("banner")).toContainText("Old parade bike");
  await page.goto(`${page.url()}?step=battery.rest`);
  await expect(page.getByText("school Harbour: 12.6 V rest")).toBeVisible();
});

test("addresses that lead nowhere, and actions from elsewhere", async ({ shop: page, workshop, request }) => {
  for (const path of ["/jobs/99999", "/jobs/abc", "/machines/nobody", "/nowhere"]) {
    const answer = await page.goto(workshop.url + path);
    expect(answer?.status()).toBe(404);
    await expect(page.getByRole("link", { name: "To the rail" })).toBeVisible();
  }
  const foreign = await request.post(`${workshop.url}/settings`, { headers: { origin: "http://elsewhere.example" }, form: { intent: "shop" } });
  expect(foreign.status()).toBe(403);
  const rebound = await request.get(workshop.url, { headers: { host: "rebound.example" } });
  expect(rebound.status()).toBe(421);
  const sent = await request.get(workshop.url);
  expect(sent.headers()["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(await sent.text()).not.toMatch(/<script(?![^>]*nonce=)/);
});

test("intake: nothing picked is said, what was typed stays; a plain cause ends the job", async ({ shop: page }) => {
  await page.getByRole("link", { name: "Take in a machine" }).click();
  await ready(page);
  await page.getByLabel("In the owner's words").fill("Left the lights on.");
  await page.getByLabel("Battery age").fill("old");
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page.getByText("Pick a machine, or one without a sheet.")).toBeVisible();
  await expect(page.getByText("Must be a number from 0 to 50 years.")).toBeVisible();
  await expect(page.getByLabel("In the owner's words")).toHaveValue("Left the lights on.");
  await page.getByLabel("Battery age").fill("2,5");
  await page.getByText("SK-121 “Dunlin”").click();
  await page.getByText("Key or lights left on?").click();
  await page.getByText("Warning lamp on", { exact: true }).click();
  await expect(page.getByRole("button", { name: "End it here" })).toHaveCount(0);
  await page.getByText("Warning lamp on", { exact: true }).click();
  await page.getByRole("button", { name: "End it here: plain cause" }).click();
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText("Plain cause, nothing failed")).toBeVisible();
});

test("a sheet is changed, refused field by field, and a job keeps its own copy", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-302");
  await page.goto(`${workshop.url}/machines/tidewright-sound-40/edit`);
  await ready(page);
  await page.getByLabel("Pole pairs").fill("0");
  await page.getByLabel("From").first().fill("16");
  await page.getByRole("button", { name: "Keep the sheet" }).click();
  await expect(page.getByText("must be 1 or more")).toBeVisible();
  await expect(page.getByText("must not be above the high figure")).toBeVisible();
  await expect(page.getByLabel("From").first()).toHaveValue("16");
  await page.getByLabel("Pole pairs").fill("6");
  await page.getByLabel("From").first().fill("13,1");
  await page.getByRole("button", { name: "Add a band" }).click();
  await expect(page.getByLabel("Test", { exact: true })).toHaveCount(4);
  await page.getByLabel("Test", { exact: true }).last().selectOption("battery.crank");
  await page.getByLabel("From").last().fill("9.9");
  await page.getByRole("button", { name: "Keep the sheet" }).click();
  await expect(page).toHaveURL(/\/machines\/tidewright-sound-40$/);
  await expect(page.getByText("13.10–14.80 V")).not.toHaveCount(0);
  await expect(page.getByText("≥ 9.90 V")).toBeVisible();
  // A page left while it still asks for something says so as an error.
  await page.waitForLoadState("networkidle");
  await page.goto(`${job}?step=${encodeURIComponent("charge.volts~~3000~normal")}`);
  await expect(page.getByText("sheet p. 4-12").first()).toBeVisible();
  await expect(page.locator("figure")).toContainText("13.40");
});

test("a new sheet takes a name of its own", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/machines/new`);
  await ready(page);
  await page.getByLabel("Short name").fill("ostrel-burro-520");
  await page.getByLabel("Maker").fill("Ostrel");
  await page.getByLabel("Model").fill("Burro 300");
  await page.getByRole("button", { name: "Put it on the shelf" }).click();
  await expect(page.getByText("There is a sheet named ostrel-burro-520 already")).toBeVisible();
  await page.getByLabel("Short name").fill("ostrel-burro-300");
  await page.getByRole("button", { name: "Put it on the shelf" }).click();
  await expect(page.getByRole("heading", { name: "Ostrel Burro 300" })).toBeVisible();
});

test("the shop: school, meters, and a figure out of range", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/settings`);
  await ready(page);
  await page.getByText("Another meter", { exact: true }).click();
  const form = page.locator("details", { hasText: "Another meter" });
  await form.getByLabel("Name").fill("Meter 9");
  await form.getByLabel("Lead zero, Ω").fill("7");
  await form.getByRole("button", { name: "Keep this meter" }).click();
  await expect(form.getByText("Must be 5 Ω or less.")).toBeVisible();
  await expect(form.getByLabel("Lead zero, Ω")).toHaveValue("7");
  await form.getByLabel("Lead zero, Ω").fill("0,3");
  await form.getByRole("button", { name: "Keep this meter" }).click();
  await expect(page.locator("summary", { hasText: "Meter 9" })).toBeVisible();
  await page.getByLabel(/Patrol/).check();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  // Whoever reloads at once may see the page as it was; what was kept is there the next time.
  await expect(async () => {
    await page.reload();
    await expect(page.getByLabel(/Patrol/)).toBeChecked({ timeout: 5_000 });
  }).toPass();
  await page.getByLabel(/Harbour/).check();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
});

test("day and night are chosen and remembered", async ({ shop: page }) => {
  await ready(page);
  await page.getByRole("button", { name: "Light: as device" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
  await page.getByRole("button", { name: "Light: day" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});

test("a case goes out as a file and comes back as a job; a broken one is named field by field", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-133");
  const file = await (await page.request.get(`${job}/case.json`)).text();
  await page.goto(`${workshop.url}/jobs/import`);
  await page.getByLabel("or paste it").fill(file.replace('"uvrelCase": 1', '"uvrelCase": 7'));
  await page.getByRole("button", { name: "Open as a job" }).click();
  await expect(page.getByRole("alert")).toContainText("uvrelCase must be 1");
  await expect(page.getByLabel("or paste it")).not.toHaveValue("");
  await page.getByLabel("or paste it").fill("{ nonsense");
  await page.getByRole("button", { name: "Open as a job" }).click();
  await expect(page.getByRole("alert")).toContainText("line 1 is not JSON");
  await page.getByLabel("or paste it").fill("");
  await page.getByLabel("Case file (.json)").setInputFiles({ name: "case.json", mimeType: "application/json", buffer: Buffer.from(file) });
  await page.getByRole("button", { name: "Open as a job" }).click();
  await expect(page.getByRole("region", { name: "Standing" })).toContainText("Volts are lost between the unit and the battery plus");
});

test("a shop answers one question for itself: it is kept, new jobs are judged by it, and another school stands beside", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/settings`);
  await ready(page);
  await page.getByText("Answer single questions otherwise").click();
  await page.getByLabel("Lowest cranking volts").selectOption("9");
  await page.getByRole("button", { name: "Keep", exact: true }).first().click();
  await expect(page.getByText("1 answered")).toBeVisible();
  await page.reload();
  await ready(page);
  await page.getByText("Answer single questions otherwise").click();
  await expect(page.getByLabel("Lowest cranking volts")).toHaveValue("9");
  expect(await violations(page)).toEqual([]);

  await page.goto(`${workshop.url}/jobs/new`);
  await ready(page);
  await page.locator('input[value="family:three-phase-shunt/12"]').check();
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+/);
  const job = page.url();
  await page.goto(`${job}?step=battery.crank`);
  await ready(page);
  await expect(page.getByText("school: Harbour with 1 of its own")).toBeVisible();
  await page.getByLabel(/What the meter shows/).fill("9.4");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Kept Crank dip: 9\.40 V, in band/)).toBeVisible();
  await page.goto(`${job.replace(/\?.*/, "")}/verdict`);
  await ready(page);
  await page.getByText("Judged by another school").click();
  await expect(page.getByText("Crank dip: low instead of in band").first()).toBeVisible();
});

test("a load test counts its fifteen seconds, says when to read, and keeps its amps; a tester says of which standard its amps are", async ({
  shop: page,
  workshop,
}) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.clock.install();
  await page.goto(`${job}?step=battery.load`);
  await ready(page);
  // From here on the page's clock stands unless it is told to run: however slow the machine, it shows what it shows.
  await page.clock.pauseAt(Date.now() + 60_000);
  await page.getByRole("button", { name: "Load on: count 15 s" }).click();
  await page.clock.runFor(5000);
  await expect(page.getByText("10 s", { exact: true })).toBeVisible();
  await expect(page.getByText("Read, then load off.")).toHaveCount(0);
  await page.clock.runFor(11_000);
  await expect(page.getByText("Read, then load off.")).toBeVisible();
  await page.clock.resume();
  await page.getByLabel("loaded with").fill("a lot");
  await page.getByLabel(/What the meter shows/).fill("10.1");
  await page.keyboard.press("Enter");
  await expect(page.getByText("The load must be a number of amps from 1 to 2,000.")).toBeVisible();
  await page.goto(`${job}?step=battery.crankingAmps`);
  await ready(page);
  await page.getByLabel("Standard of the cranking amps").selectOption("din");
  await page.getByLabel(/What the meter shows/).fill("150");
  expect(await violations(page)).toEqual([]);
});
