import type { Page } from "@playwright/test";
import type { SetFault } from "../../core/machine/defects";
import { unlistedSheet } from "../../core/machine/unlisted";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { sheetOf } from "../support/population";
import { hold, LONG, MOST, shown, stepOf, takeIn, work } from "./advised";
import { expect, jobOf, ready, test, violations, type Workshop } from "./workshop";

async function begin(page: Page, workshop: Workshop, tag: string): Promise<void> {
  await page.evaluate(() => localStorage.setItem("uvrel.order", "odds"));
  await page.goto(await jobOf(page, workshop, tag));
  await ready(page);
}

test("a whole job by the odds and by keys, with a mistyped reading, a reload and the line down on the way", async ({ shop: page, workshop }) => {
  await begin(page, workshop, "SK-121");
  const field = page.getByLabel(/What the meter shows/);
  const touching: SetFault[] = [{ fault: "stator.winding-grounded", at: "2", severity: 0.05, along: 0.2 }];
  let takenBefore = 0;
  const taken = await work(page, sheetOf("ostrel-burro-520"), touching, {
    1: async () => {
      await page.keyboard.type("1e9");
      await page.keyboard.press("Enter");
      await expect(page.locator("#entry-says")).toContainText(/cannot be|is not/);
      await expect(field).toHaveValue("1e9");
      await field.fill("");
    },
    2: async () => {
      const at = page.url();
      await page.reload();
      await ready(page);
      await expect(page).toHaveURL(at);
      await expect(page.getByRole("region", { name: "Standing" }).getByText("What would change this")).toBeVisible({ timeout: LONG });
    },
    3: async (taken) => {
      takenBefore = taken;
      await workshop.stop();
    },
    4: async (taken) => {
      // The odds went on without the server; each reading since then is waiting, which is said, and sent when it is back.
      expect(taken).toBeGreaterThan(takenBefore);
      await expect(page.getByText(`${taken - takenBefore} not yet sent`, { exact: true })).toBeVisible();
      await workshop.again();
      await expect(page.getByText("not yet sent")).toBeHidden();
    },
  });
  expect(taken).toBeGreaterThan(4);
  if (!/\/verdict$/.test(page.url())) await page.keyboard.press("v");
  await expect(page.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/stator/i);
  await expect(page.getByText(/leg 2/).first()).toBeVisible();
});

test("a machine without a sheet has its charts drawn from what is usual, and its fault found", async ({ shop: page, workshop }) => {
  await takeIn(page, workshop, "family:three-phase-shunt/12");
  await work(page, unlistedSheet("three-phase-shunt", 12), [{ fault: "regulator.no-output" }]);
  if (!/\/verdict$/.test(page.url())) await page.keyboard.press("v");
  await expect(page.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/regulator\/rectifier/i);
});

test("the step that is open is seen in the list below the plan", async ({ shop: page, workshop }) => {
  await takeIn(page, workshop, "sheet:brannoch-fell-850");
  const plan = page.getByRole("region", { name: "Plan" });
  await expect(plan).toBeVisible({ timeout: LONG });
  await page.goto(`${page.url().split("?")[0]}?step=charge.volts~~5000~normal`);
  await ready(page);
  await expect(plan).toBeVisible({ timeout: LONG });
  const open = page.getByRole("navigation", { name: "Run list" }).locator("[aria-current]").last();
  await expect
    .poll(async () => {
      const [above, line] = [await plan.boundingBox(), await open.boundingBox()];
      return above && line && line.y >= above.y + above.height && line.y + line.height <= 800;
    })
    .toBe(true);
});

/** Begins a job, waits for its odds, and has nobody answer from there on before he is let. */
async function beginHeld(page: Page, workshop: Workshop): Promise<() => void> {
  await takeIn(page, workshop, "unit:SK-133");
  await expect(page.getByRole("region", { name: "Plan" })).toBeVisible({ timeout: LONG });
  const letGo = await hold(page);
  await page.goto(`${page.url().split("?")[0]}?step=battery.settled`);
  await ready(page);
  return letGo;
}

test("odds that come when the first step has long been read take nobody's step away", async ({ shop: page, workshop }) => {
  const letGo = await hold(page);
  await takeIn(page, workshop, "unit:SK-141");
  const title = page.getByRole("heading", { level: 1 });
  const plan = page.getByRole("region", { name: "Plan" });
  const opened = (await title.textContent()) ?? "";
  await expect(plan).toHaveCount(0);
  await page.waitForTimeout(6_000);
  letGo();
  const advised = plan.locator("[data-advised]");
  await expect(advised).toBeVisible({ timeout: LONG });
  await expect(advised).not.toContainText(opened);
  await expect(title).toHaveText(opened);
  await page.keyboard.press("a");
  await expect(title).not.toHaveText(opened);
});

const LATE = "What to read next is being worked out.";

test("odds that are late are waited for with a word on it: the list is a key away, and what is typed meanwhile stays", async ({ shop: page, workshop }) => {
  const letGo = await beginHeld(page, workshop);
  const title = page.getByRole("heading", { level: 1 });
  const late = page.getByText(LATE);
  await page.keyboard.type("12.4");
  await page.keyboard.press("Enter");
  await expect(late).toBeVisible();
  await expect(title).toContainText("Settled volts");
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press("a");
  await expect(title).toContainText("Crank dip");
  await expect(late).toBeHidden();

  await page.keyboard.type("10.6");
  await page.keyboard.press("Enter");
  await expect(late).toBeVisible();
  await page.keyboard.type("10.7");
  letGo();
  await expect(late).toBeHidden({ timeout: LONG });
  await expect(title).toContainText("Crank dip");
  await expect(page.getByLabel(/What the meter shows/)).toHaveValue("10.7");
});

test("odds that are late lead on without a touch once they are there", async ({ shop: page, workshop }) => {
  const letGo = await beginHeld(page, workshop);
  await page.keyboard.type("12.4");
  await page.keyboard.press("Enter");
  await expect(page.getByText(LATE)).toBeVisible();
  letGo();
  await expect(page.getByRole("heading", { level: 1 })).not.toContainText("Settled volts", { timeout: LONG });
  await expect(page.getByText(LATE)).toBeHidden();
});

test.describe("by thumb", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test("what is advised first is one tap away, and each kept reading leads to the next until the verdict", async ({ shop: page, workshop }) => {
    const sheet = sheetOf("corvane-linnet-125");
    await takeIn(page, workshop, "unit:SK-133");
    const advised = page.getByRole("region", { name: "Plan" }).locator("[data-advised]");
    await expect(advised).toBeVisible({ timeout: LONG });
    await expect(page.locator("kbd:visible, .key:visible")).toHaveCount(0);
    const step = (await advised.getAttribute("href")) ?? "";
    await advised.tap();
    await expect(page).toHaveURL(new RegExp(`${step.replace(/[.*+?^${}()|[\]\\~]/g, "\\$&")}$`));
    let taken = 0;
    for (; taken < MOST && !/\/verdict$/.test(page.url()); taken++) {
      const before = page.url();
      const step = stepOf(page);
      if (!step) throw new Error(`no step in ${before}`);
      await expect(page.getByRole("heading", { level: 1 })).toHaveText(stepTitle(step));
      const value = shown(sheet, [{ fault: "wiring.output-resistance", severity: 0.5 }], step, false);
      if (value === "OL") await page.getByRole("button", { name: "Open line" }).tap();
      else if (testOf(step.test).unit === "choice") await page.locator("#entry button[name=value]", { hasText: value }).tap();
      else {
        if (value.startsWith("-")) await page.getByRole("button", { name: "±" }).tap();
        for (const digit of value.replace("-", "")) await page.getByRole("button", { name: digit, exact: true }).tap();
        await page.getByRole("button", { name: "Keep", exact: true }).tap();
        if (await page.getByText("is unlikely here").isVisible()) await page.getByRole("button", { name: "Keep it" }).tap();
      }
      await expect(page).not.toHaveURL(before, { timeout: LONG });
    }
    expect(taken).toBeLessThan(MOST);
    await expect(page.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
    await expect(page.getByRole("heading", { level: 1 })).toContainText(/wiring/i);
    // Whoever comes back to the bench is told that nothing more has to be read, and what was found, before any step of the list.
    await page.goto(page.url().replace(/\/verdict$/, ""));
    const settled = page.getByRole("region", { name: "Nothing more to read" });
    await expect(settled).toContainText(/wiring/i, { timeout: LONG });
    await ready(page);
    await settled.getByRole("link", { name: "To the verdict" }).tap();
    await expect(page).toHaveURL(/\/verdict$/);
  });
});
