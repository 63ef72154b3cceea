import type { Locator, Page } from "@playwright/test";
import { conditionOf } from "../../core/machine/condition";
import type { SetFault } from "../../core/machine/defects";
import type { Sheet } from "../../core/machine/sheet";
import type { Meter } from "../../core/meter/meter";
import { testOf } from "../../core/procedure/catalogue";
import { simulateStep } from "../../core/procedure/simulate";
import { type Step, stepFromKey, stepTitle } from "../../core/procedure/step";
import { expect, ready, type Workshop } from "./workshop";

// A job worked by what Uvrel advises, on a machine simulated beside it.

/** Long enough for a busy machine to answer, ms. */
export const LONG = 120_000;
const METER: Meter = { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
/** More readings than this and the odds have lost their way. */
export const MOST = 30;

/** What the meter would show on the ailing machine, as it is typed. */
export function shown(sheet: Sheet, faults: SetFault[], step: Step, charged: boolean): string {
  return String(simulateStep(sheet, conditionOf(faults, { charge: charged ? 1 : 0.8 }), step, METER).value);
}

/** The step under the probes, from the address. */
export function stepOf(page: Page): Step | undefined {
  return stepFromKey(new URL(page.url()).searchParams.get("step") ?? "");
}

/** Goes to what is advised after so many readings, by key. @returns the step; undefined once nothing is worth reading any more */
async function follow(page: Page, taken: number): Promise<Step | undefined> {
  const standing = page.getByRole("region", { name: "Standing" });
  const ended = (): boolean => /\/verdict$/.test(page.url());
  // The last reading leads to the verdict, sometimes by way of the bench with its new odds.
  await expect.poll(async () => ended() || (await textOf(standing)).includes(`after ${taken} reading`), { timeout: LONG }).toBe(true);
  if (ended()) return undefined;
  const [href] = await page
    .getByRole("region", { name: "Plan" })
    .locator("[data-advised]")
    .evaluateAll((links) => links.map((link) => link.getAttribute("href") ?? ""));
  if (href === undefined) return undefined;
  await page.keyboard.press("a");
  await expect(page).toHaveURL(new RegExp(`${href.replace(/[.*+?^${}()|[\]\\~]/g, "\\$&")}$`));
  const step = stepOf(page);
  if (!step) throw new Error(`no step in ${page.url()}`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(stepTitle(step));
  return step;
}

/** A place's text as it stands, empty where the place has gone: a page that moves on meanwhile is not waited for. */
async function textOf(place: Locator): Promise<string> {
  return (await place.allTextContents()).join("");
}

const count = (text: string): string | undefined => /after \d+/.exec(text)?.[0];

/** Keeps one reading by keys: a figure, the open line, or one of the words. */
async function enter(page: Page, value: string): Promise<void> {
  const before = page.url();
  const standing = page.getByRole("region", { name: "Standing" });
  const counted = count(await textOf(standing));
  const words = page.locator("#entry button[name=value]");
  if (value === "OL") await page.keyboard.press("o");
  else if (/^-?[\d.]/.test(value)) {
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
    // An unlikely figure is asked about once, and kept when it is said again.
    if (await page.getByText("is unlikely here").isVisible()) await page.keyboard.press("Enter");
  } else {
    const names = (await words.allTextContents()).map((text) => text.replace(/\d$/, ""));
    await page.keyboard.press(String(names.indexOf(value) + 1));
  }
  // Where everything hangs on one reading it is asked for once more, and the page stays; that it was kept shows in the odds' count.
  await expect.poll(async () => page.url() !== before || count(await textOf(standing)) !== counted, { timeout: LONG }).toBe(true);
}

/** Works a job to where the odds say enough; `mishaps` happen before the figure of their number, counted from 0, and are told how many readings, words among them, were kept by then. */
export async function work(page: Page, sheet: Sheet, faults: SetFault[], mishaps: Record<number, (taken: number) => Promise<void>> = {}): Promise<number> {
  let taken = 0;
  let figures = 0;
  for (let step = await follow(page, 0); step && taken < MOST; step = await follow(page, ++taken)) {
    if (testOf(step.test).unit !== "choice") await mishaps[figures++]?.(taken);
    const charged = await page
      .locator("#entry input[name=charged]")
      .isChecked({ timeout: 500 })
      .catch(() => false);
    await enter(page, shown(sheet, faults, step, charged));
  }
  expect(taken).toBeLessThan(MOST);
  return taken;
}

/** Takes a machine in at the counter, its battery flat after a ride, and opens its bench. */
export async function takeIn(page: Page, workshop: Workshop, machine: string): Promise<void> {
  await page.evaluate(() => localStorage.setItem("uvrel.order", "odds"));
  await page.goto(`${workshop.url}/jobs/new`);
  await ready(page);
  await page.locator(`input[value="${machine}"]`).check();
  await page.getByText("Flat after a ride", { exact: true }).click();
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+/);
  // The address is there before the bench is: until then the counter's title still stands.
  await expect(page.getByRole("heading", { level: 1 })).not.toHaveText("Take in a machine");
}

/** Has nobody answer before he is let: neither the server nor what the page's own engine is made from. */
export async function hold(page: Page): Promise<() => void> {
  let letGo = (): void => undefined;
  const held = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  for (const what of ["advice", "predictions"])
    await page.route(`**/jobs/*/${what}*`, async (route) => {
      await held;
      await route.continue().catch(() => undefined);
    });
  return letGo;
}
