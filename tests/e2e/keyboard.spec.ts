import type { Locator } from "@playwright/test";
import { sheetOf } from "../support/population";
import { LONG, work } from "./advised";
import { expect, jobOf, ready, test } from "./workshop";

/** More than this and a place is out of the tab key's reach. */
const MOST_TABS = 120;

/** Every figure of a Ferrel 650 whose regulator makes nothing, in the order of the run list. */
const READINGS: string[] = [
  "1", // posts tight
  "1", // stator connector clean
  "1", // output connector clean
  "12,86",
  "12.5",
  "10.9 10,7 10.8",
  "12.5",
  "12.41",
  "12.1",
  "0.45",
  "0.46",
  "0.45",
  "o",
  "o",
  "o",
  "14.4",
  "14.4",
  "14.5",
  "60",
  "60",
  "61",
  "60",
  "60",
  "61",
  "0.49",
  "0.49",
  "0.5",
  "o",
  "o",
  "o",
  "0.49",
  "0.49",
  "0.5",
  "o",
  "o",
  "o",
  "0.9",
  "o",
  "12.7",
  "0.2",
];

test("a whole job by keyboard only, from the rail to the closed report", async ({ shop: page }) => {
  const { keyboard } = page;
  await ready(page);

  // Two moves: take a machine in, pick it, start.
  await keyboard.press("g");
  await keyboard.press("n");
  await expect(page.getByRole("heading", { name: "Take in a machine" })).toBeVisible();
  await page.getByLabel("Find it by tag").focus();
  await keyboard.type("kestrel");
  await keyboard.press("Tab");
  await keyboard.press("Space");
  await expect(page.getByRole("radio", { name: /SK-109/ })).toBeChecked();
  await keyboard.press("Tab");
  await keyboard.press("Space");
  await page.getByRole("button", { name: "Start on the bench" }).focus();
  await keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1, name: "Battery posts and starter post" })).toBeVisible();
  await ready(page);

  for (const typed of READINGS) {
    const before = await page.getByRole("heading", { level: 1 }).textContent();
    if (typed === "o" || (typed === "1" && before?.match(/posts|connector/))) await keyboard.press(typed);
    else {
      await keyboard.type(typed);
      await keyboard.press("Enter");
    }
    await expect(page.getByRole("heading", { level: 1 })).not.toHaveText(before ?? "");
  }

  const standing = page.getByRole("region", { name: "Standing" });
  await expect(standing.getByText("What each reading says by itself")).toBeVisible();
  await expect(standing.getByRole("listitem").first()).toContainText("Regulator/rectifier");
  await expect(standing.getByRole("listitem").filter({ hasText: "Stator" }).first()).toContainText("cleared");

  // Skip what is left of the wiring with a reason, by keys.
  await keyboard.press("n");
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.getByRole("button", { name: "Already known" }).focus();
  await keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toBeHidden();

  // The verdict, the repair, the proof, the close.
  await keyboard.press("v");
  await expect(page.getByText(/by the shop's prices/)).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/regulator\/rectifier/i);
  await expect(page.getByText(/makes no DC/i).first()).toBeVisible();
  await expect(page.getByRole("listitem").filter({ hasText: "Stator:" })).toContainText(/Pair 1–2|Pair 3–1|Pair 2–3/);
  await page.getByLabel("What was done").focus();
  await keyboard.type("Unit renewed, ground cleaned.");
  await page.getByRole("button", { name: "Record the repair" }).focus();
  await keyboard.press("Enter");
  await expect(page.getByText("Unit renewed, ground cleaned.")).toBeVisible();

  await page.getByRole("button", { name: "Close the job" }).focus();
  await keyboard.press("Enter");
  await expect(page.getByText("Read the charging volts again at the sheet's rpm")).toBeVisible();

  for (const [name, volts] of [
    ["Charging volts at the battery, idle after", "13.9"],
    ["Charging volts at the battery, 5,000 rpm after", "14.4"],
    ["Charging volts at the battery, 5,000 rpm, all loads after", "14.2"],
  ] as const) {
    await page.getByLabel(name).focus();
    await keyboard.type(volts);
    await keyboard.press("Enter");
    await expect(page.getByText(`${Number(volts).toFixed(2)} V after, in band`)).toBeVisible();
  }
  await page.getByLabel("Note for next time").focus();
  await keyboard.type("Steady at 14.4.");
  await keyboard.press("Enter");
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText("Repaired and proven: Steady at 14.4.")).toBeVisible();
  await expect(page.getByRole("row", { name: /Crank dip/ })).toContainText("10.70 V");
});

test("a machine without a sheet by keyboard only: named by what eyes see, worked by the odds, to the verdict", async ({ shop: page }) => {
  const { keyboard } = page;
  /** Goes on by the tab key until a place has the focus, as whoever has no mouse must. */
  const tabTo = async (place: Locator): Promise<void> => {
    const isFocused = (): Promise<boolean> => place.evaluate((element) => element === document.activeElement);
    for (let moves = 0; moves < MOST_TABS && !(await isFocused()); moves++) await keyboard.press("Tab");
    await expect(place).toBeFocused();
  };
  await page.evaluate(() => localStorage.setItem("uvrel.order", "odds"));
  await page.reload();
  await ready(page);
  await keyboard.press("g");
  await keyboard.press("n");
  await expect(page.getByRole("heading", { name: "Take in a machine" })).toBeVisible();
  await ready(page);
  await tabTo(page.locator("summary", { hasText: "No sheet: what is it?" }));
  await keyboard.press("Enter");
  await tabTo(page.getByLabel("Wires out of the engine"));
  await keyboard.type("3");
  const kind = page.getByRole("button", { name: /three/i }).first();
  await expect(kind).toBeVisible();
  await tabTo(kind);
  await keyboard.press("Enter");
  await tabTo(page.getByLabel("Tag to hang on it"));
  await keyboard.type("K-7");
  await tabTo(page.getByLabel("Flat after a ride"));
  await keyboard.press("Space");
  await tabTo(page.getByRole("button", { name: "Start on the bench" }));
  await keyboard.press("Enter");
  await expect(page).toHaveURL(/\/jobs\/\d+/);
  await ready(page);
  await work(page, sheetOf("corvane-ferrel-650"), [{ fault: "regulator.no-output" }]);
  if (!/\/verdict$/.test(page.url())) await keyboard.press("v");
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/regulator/i, { timeout: LONG });
  // The report has no engine of its own: what rules the others out comes with the server's verdict.
  await page.goto(page.url().replace(/verdict$/, "report"));
  const ruledOut = page.locator("section", { has: page.getByRole("heading", { name: "Ruled out" }) });
  await expect(
    ruledOut
      .getByRole("listitem")
      .filter({ hasText: /: .*\d (V|Ω)/ })
      .first(),
  ).toBeVisible({ timeout: LONG });
});

test("keys: list, why, lead zero, swap, back, key list", async ({ shop: page, workshop }) => {
  await page.goto(await jobOf(page, workshop, "SK-207"));
  await ready(page);
  const { keyboard } = page;
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toHaveText("Pair 1–2 AC volts, 5,000 rpm");

  await keyboard.press("w");
  await expect(page.getByRole("heading", { name: "Why this step" })).toBeVisible();
  await keyboard.press("s");
  await expect(page.getByText("Red on pin 2")).toBeVisible();
  await keyboard.press("s");
  await expect(page.getByText("Red on pin 1")).toBeVisible();

  await keyboard.press("z");
  await page.getByLabel(/Shorted leads read/).fill("0,22");
  await keyboard.press("Enter");
  await expect(page.getByRole("banner")).toContainText("0.22 Ω");
  await keyboard.press("z");
  await page.getByLabel(/Shorted leads read/).fill("40");
  await keyboard.press("Enter");
  await expect(page.getByText("The lead zero must be from 0 to 5 Ω")).toBeVisible();
  await keyboard.press("Escape");

  await keyboard.press("b");
  await expect(title).toHaveText("Pair 3–1 AC volts, idle");
  await keyboard.press("l");
  await expect(page.getByRole("navigation", { name: "Run list" }).locator("[aria-current]")).toBeFocused();
  await keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toContainText("keep it and move on");
  await keyboard.press("Escape");
  await keyboard.press("g");
  await keyboard.press("r");
  await expect(page).toHaveURL(`${workshop.url}/`);
});

test("a key pressed the moment the next step stands keeps the focus where it put it", async ({ shop: page, workshop }) => {
  await page.goto(await jobOf(page, workshop, "SK-207"));
  await ready(page);
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toHaveText("Pair 1–2 AC volts, 5,000 rpm");
  await page.evaluate(() => {
    const step = document.querySelector("h1");
    if (!step) throw new Error("no step stands");
    // Sooner after the next step is drawn no hand can be.
    new MutationObserver((_, observer) => {
      observer.disconnect();
      document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "l", bubbles: true }));
    }).observe(step, { characterData: true, childList: true, subtree: true });
  });
  await page.keyboard.press("b");
  await expect(title).toHaveText("Pair 3–1 AC volts, idle");
  const line = page.getByRole("navigation", { name: "Run list" }).locator("[aria-current]");
  await expect(line).toContainText("3-1 idle");
  await expect(line).toBeFocused();
});

test("the key of a word chooses it and is typed nowhere, however soon the next step's field has the focus", async ({ shop: page, workshop }) => {
  await page.goto(`${await jobOf(page, workshop, "SK-207")}?step=inspect.connector~output`);
  await ready(page);
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toHaveText("Output connector");
  // Whether the browser goes on to type a key is settled when all that hear it have been asked.
  await page.evaluate(() => {
    window.addEventListener("keydown", (event) => document.body.setAttribute("data-typed", `${event.key} ${!event.defaultPrevented}`));
  });
  await page.keyboard.press("7");
  await expect(page.locator("body")).toHaveAttribute("data-typed", "7 true");
  await page.keyboard.press("1");
  await expect(page.locator("body")).toHaveAttribute("data-typed", "1 false");
  await expect(title).not.toHaveText("Output connector");
});

test("a panel opens with the line down, and gives the focus back", async ({ shop: page, workshop }) => {
  const fetched = page.waitForResponse(/PanelSheet/);
  await page.goto(await jobOf(page, workshop, "SK-207"));
  await ready(page);
  await (await fetched).finished();
  await page.context().setOffline(true);
  const keys = page.getByRole("button", { name: /^Keys/ });
  await keys.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toBeHidden();
  await expect(keys).toBeFocused();
});

test("a panel that cannot be fetched says so", async ({ shop: page, workshop }) => {
  await page.route(/PanelSheet/, (route) => route.abort());
  await page.goto(await jobOf(page, workshop, "SK-207"));
  await ready(page);
  await page.keyboard.press("?");
  const said = page.getByRole("alert").filter({ hasText: "Keys cannot be opened while the server cannot be reached" });
  await expect(said).toBeVisible();
  await said.getByRole("button", { name: "Close" }).click();
  await expect(said).toBeHidden();
});
