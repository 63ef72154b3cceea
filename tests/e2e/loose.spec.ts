import type { Page } from "@playwright/test";
import type { SetFault } from "../../core/machine/defects";
import type { Loose } from "../../core/machine/loose";
import type { Sheet } from "../../core/machine/sheet";
import { sheetOf } from "../support/population";
import { LONG, MOST, shown, stepOf, work } from "./advised";
import { expect, ready, test, violations, type Workshop } from "./workshop";

async function bring(page: Page, workshop: Workshop, machine: string, loose: Loose): Promise<void> {
  await page.evaluate(() => localStorage.setItem("uvrel.order", "odds"));
  await page.goto(`${workshop.url}/jobs/new`);
  await ready(page);
  await page.locator(`input[value="${machine}"]`).check();
  await page.getByLabel("What came in").selectOption(loose);
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+/);
  await ready(page);
}

test("a regulator in the hand, by keys: its chart filled in, called bad, put with its machine, handed back and printed", async ({ shop: page, workshop }) => {
  await bring(page, workshop, "sheet:corvane-ferrel-650", "regulator");
  const short: SetFault[] = [{ fault: "regulator.diode-shorted", at: "2>B+" }];
  await expect(page.getByText("In the hand, its plugs open and clean.")).toBeVisible();
  await work(page, sheetOf("corvane-ferrel-650"), short);
  if (!/\/verdict$/.test(page.url())) await page.keyboard.press("v");
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Bad \(/, { timeout: LONG });
  await expect(page.getByText(/by the shop's prices|Before anything is ordered|Repairs done/)).toHaveCount(0);
  expect(await violations(page)).toEqual([]);

  await page.getByRole("button", { name: "Put it with that machine" }).click();
  await expect(page.getByText("Pick the machine it belongs to.")).toBeVisible();
  await page.getByLabel("Machine it belongs to").selectOption("SK-102");
  await page.getByRole("button", { name: "Put it with that machine" }).click();
  await expect(page.getByText(/^Of SK-102\./)).toBeVisible();
  await page.getByLabel("Note for next time").focus();
  await page.keyboard.type("Upper diode of leg 2.");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText("Handed back, not good or not settled: Upper diode of leg 2.")).toBeVisible();
  await expect(page.getByRole("table").getByText("shorted").first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test.describe("by thumb", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  /** Takes what is advised, off a simulated part, by taps alone; how many readings it took. */
  async function workByThumb(page: Page, sheet: Sheet, faults: SetFault[]): Promise<number> {
    const plan = page.getByRole("region", { name: "Plan" });
    // Weighed to the last reading, and the page stands at what it advises: the same step again where a reading is asked for once more.
    const stands = page.locator('[aria-label="Plan"][aria-busy="false"] [data-advised][aria-current]');
    const ended = (): boolean => /\/verdict$/.test(page.url());
    await plan.locator("[data-advised]").tap({ timeout: LONG });
    let taken = 0;
    for (; taken < MOST; taken++) {
      await expect.poll(async () => ended() || (await stands.count()) > 0, { timeout: LONG }).toBe(true);
      if (ended()) break;
      const step = stepOf(page);
      if (!step) throw new Error(`no step in ${page.url()}`);
      const value = shown(sheet, faults, step, false);
      if (value === "OL") await page.getByRole("button", { name: "Open line" }).tap();
      else {
        for (const digit of value) await page.getByRole("button", { name: digit, exact: true }).tap();
        await page.getByRole("button", { name: "Keep", exact: true }).tap();
      }
    }
    return taken;
  }

  test("a stator from the shelf is called good as far as a bench tells", async ({ shop: page, workshop }) => {
    await bring(page, workshop, "sheet:corvane-linnet-125", "stator");
    expect(await workByThumb(page, sheetOf("corvane-linnet-125"), [])).toBeLessThan(12);
    await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Good as far as a bench tells/, { timeout: LONG });
  });

  test("a regulator in the hand is called bad, and handed back with a note", async ({ shop: page, workshop }) => {
    await bring(page, workshop, "sheet:corvane-linnet-125", "regulator");
    expect(await workByThumb(page, sheetOf("corvane-linnet-125"), [{ fault: "regulator.diode-shorted", at: "B->3" }])).toBeLessThan(20);
    await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Bad \(/, { timeout: LONG });
    await page.getByLabel("Note for next time").fill("Lower diode of leg 3.");
    await page.getByRole("button", { name: "Close the job" }).tap();
    await expect(page).toHaveURL(/\/report$/);
    await expect(page.getByText("Handed back, not good or not settled: Lower diode of leg 3.")).toBeVisible();
    expect(await violations(page)).toEqual([]);
  });
});
