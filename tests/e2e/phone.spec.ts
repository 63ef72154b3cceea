import { hold, LONG } from "./advised";
import { expect, ready, test } from "./workshop";

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

test("a whole job by thumb: battery worn out, renewed, proven", async ({ shop: page }) => {
  const tapKeys = async (digits: string): Promise<void> => {
    for (const digit of digits) await page.getByRole("button", { name: digit, exact: true }).tap();
  };
  const title = page.getByRole("heading", { level: 1 });

  await page.getByRole("link", { name: "Take in a machine" }).tap();
  await page.getByText("SK-133 “Wagtail”").tap();
  await page.getByText("Slow crank").tap();
  await page.getByRole("button", { name: "Start on the bench" }).tap();
  await ready(page);

  await page.getByRole("button", { name: "tight" }).tap();
  await page.getByRole("button", { name: "clean" }).tap();
  await expect(title).toHaveText("Output connector");
  await page.getByRole("button", { name: "clean" }).tap();

  // The pad is large enough for a thumb, and the browser's own keyboard stays away.
  await expect(title).toHaveText("Rest volts");
  const key = await page.getByRole("button", { name: "5", exact: true }).boundingBox();
  expect(key?.height).toBeGreaterThanOrEqual(48);
  expect(key?.width).toBeGreaterThanOrEqual(80);
  await expect(page.getByLabel(/What the meter shows/)).toHaveAttribute("inputmode", "none");

  await tapKeys("12.9");
  await page.getByRole("button", { name: "Erase one" }).tap();
  await tapKeys("85");
  await page.getByRole("button", { name: "Keep", exact: true }).tap();
  await expect(title).toHaveText("Settled volts, key and lights on");
  await tapKeys("12.4");
  await page.getByRole("button", { name: "Keep", exact: true }).tap();
  await expect(title).toHaveText("Crank dip");
  await tapKeys("9.2");
  await page.getByRole("button", { name: "Next dip" }).tap();
  await tapKeys("8.7");
  await page.getByRole("button", { name: "Keep", exact: true }).tap();

  // A low dip asks for a load test; the list is one tap away.
  await expect(title).toHaveText("Load test");
  await tapKeys("8.4");
  await page.getByRole("button", { name: "Keep", exact: true }).tap();
  await page.getByRole("button", { name: /left$/ }).tap();
  await expect(page.getByRole("dialog")).toContainText("Crank dip");
  const list = page.getByRole("dialog");
  await list.getByText("Drain", { exact: true }).tap();
  await list.getByRole("link", { name: /Drain, key out/ }).tap();
  await expect(title).toHaveText("Drain, key out");
  await page.getByRole("button", { name: "Skip", exact: true }).tap();
  await page.getByRole("button", { name: "No tool for it" }).tap();

  await page.getByRole("button", { name: /Battery condemned|Leaning to battery|^Battery/ }).tap();
  const standing = page.getByRole("dialog").getByRole("region", { name: "Standing" });
  await expect(standing.getByText("What each reading says by itself")).toBeVisible();
  await expect(standing.getByRole("listitem").first()).toContainText(/Battery.*(suspected|condemned)/);
  await page
    .getByRole("dialog")
    .getByRole("link", { name: /Verdict and proof/ })
    .tap();
  await expect(page.getByText(/by the shop's prices/)).toBeVisible();
  await expect(title).toContainText(/battery/i);
  await expect(page.getByText(/worn out/i).first()).toBeVisible();

  await page.getByLabel("What was done").fill("Battery renewed.");
  await page.getByRole("button", { name: "Record the repair" }).tap();
  for (const [name, value] of [
    [/^Rest volts after/, "12.9"],
    [/^Crank dip after/, "11.1"],
    [/idle after/, "13.9"],
    [/5,000 rpm after/, "14.4"],
    [/all loads after/, "14.2"],
  ] as const) {
    await page.getByLabel(name).fill(value);
    await page.getByLabel(name).press("Enter");
    await expect(page.getByText(`${Number(value).toFixed(2)} V after, in band`)).toBeVisible();
  }
  await page.getByRole("button", { name: "Close the job" }).tap();
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText("Repaired and proven")).toBeVisible();
});

test("what comes in late moves nothing under the thumb, and what is odd about a figure is said", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/jobs/new`);
  await ready(page);
  await page.getByText("SK-133 “Wagtail”").tap();
  const letGo = await hold(page);
  await page.getByRole("button", { name: "Start on the bench" }).tap();
  await expect(page).toHaveURL(/\/jobs\/\d+$/);
  await ready(page);
  const entry = page.locator("#entry");
  await expect(page.getByRole("combobox", { name: "Meter" })).toBeVisible();
  const top = async (): Promise<number> => Math.round((await entry.boundingBox())?.y ?? 0);
  const before = await top();
  const plan = page.getByRole("region", { name: "Plan" });
  await expect(plan).toHaveCount(0);
  letGo();
  await expect(plan).toBeVisible({ timeout: LONG });
  expect(await top()).toBe(before);
  expect(await page.evaluate(() => window.scrollY)).toBeGreaterThan(50);

  // Another step begins at the top of the page again: looked at the moment it opens, before another plan comes in above it.
  const opened = await page.locator("h1").evaluateHandle((title) => ({
    step: new Promise<[string | null, number]>((resolve) => {
      new MutationObserver(() => resolve([title.textContent, window.scrollY])).observe(title, { characterData: true, childList: true, subtree: true });
    }),
  }));
  await page.getByRole("button", { name: "corroded" }).tap();
  expect(await opened.evaluate(({ step }) => step)).toEqual(["Stator connector", 0]);
  await page.goto(`${page.url().replace(/\?.*/, "")}?step=battery.rest`);
  await ready(page);
  await page.getByLabel(/What the meter shows/).fill("6.3");
  await page.getByRole("button", { name: "Keep", exact: true }).tap();
  await expect(page.getByText(/count the cells, three are 6 V/)).toBeVisible();

  // What is tapped for opens where it was tapped, and the entry makes room.
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Settled volts, key and lights on");
  await expect(plan).toHaveAttribute("aria-busy", "false", { timeout: LONG });
  const cautions = page.getByText("Cautions as before");
  // Well above the pad, wherever the plan has put them.
  await cautions.evaluate((element) => window.scrollBy({ top: element.getBoundingClientRect().top - 200, behavior: "instant" }));
  const [folded, low] = [(await cautions.boundingBox())?.y, await top()];
  await cautions.tap();
  await expect.poll(top).toBeGreaterThan(low);
  expect((await cautions.boundingBox())?.y).toBe(folded);
});

test("nothing is wider than the phone", async ({ shop: page, workshop }) => {
  const jobs = await Promise.all(
    ["SK-114", "SK-109", "SK-302"].map((tag) =>
      page
        .getByRole("link", { name: new RegExp(tag) })
        .first()
        .getAttribute("href"),
    ),
  );
  const paths = [
    "/",
    "/jobs/new",
    "/machines",
    "/machines/ostrel-burro-520",
    "/settings",
    ...jobs.flatMap((job) => [`${job}`, `${job}/verdict`, `${job}/report`]),
  ];
  for (const path of paths) {
    await page.goto(workshop.url + path);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    expect({ path, width: await page.evaluate(() => document.documentElement.scrollWidth) }).toEqual({ path, width: 390 });
  }
});
