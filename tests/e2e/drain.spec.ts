import type { Page } from "@playwright/test";
import { expect, jobOf, ready, test, violations, type Workshop } from "./workshop";

async function search(page: Page, workshop: Workshop): Promise<void> {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}/drain`);
  await ready(page);
}

test("a drain found by keys: meter in series throughout, the unit first, each pull put back, behind which connector", async ({ shop: page, workshop }) => {
  await search(page, workshop);
  const { keyboard } = page;
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toHaveText("What drains it while it stands?");
  await expect(page.getByText("Never turn the key or crank with the ammeter in series")).toBeVisible();
  await page.getByRole("button", { name: "Key is out: wait" }).click();
  await expect(page.getByText(/^Asleep about \d\d:\d\d\.$/)).toBeVisible();

  const field = page.getByLabel("Drain, key out, in mA");
  await field.focus();
  await keyboard.type("a lot");
  await keyboard.press("Enter");
  await expect(page.getByText(/“a lot” is not a number/)).toBeVisible();
  await expect(field).toHaveValue("a lot");
  await field.fill("0.085 A");
  await keyboard.press("Enter");
  await expect(page.getByText(/^At this drain a full battery starts the machine for about/)).toBeVisible();
  await expect(title).toHaveText("Too much: pull the unit's plugs next.");

  await expect(page.getByLabel("Drain, unit unplugged, in mA")).toBeFocused();
  await keyboard.type("84.5");
  await keyboard.press("Enter");
  await expect(page.getByText("fell by 0.5 mA")).toBeVisible();
  await expect(page.getByText("Still out: the unit's plugs.")).toBeVisible();
  // Nothing else is asked for before it is back in.
  await expect(page.getByRole("textbox", { name: /in mA$/ })).toHaveCount(0);
  await keyboard.press("Enter");
  await expect(page.getByLabel("Drain, fuse main pulled, in mA")).toBeFocused();
  await keyboard.type("0.2");
  await keyboard.press("Enter");
  await expect(title).toContainText("Found behind: Fuse main");
  await keyboard.press("Enter");
  await expect(page.getByText("All that was pulled is back in.")).toBeVisible();
  // Any other screen of the job sees it too, as soon as it is kept.
  const elsewhere = await page.context().newPage();
  await expect(async () => {
    await elsewhere.goto(page.url());
    await expect(elsewhere.getByText("All that was pulled is back in.")).toBeVisible({ timeout: 2000 });
  }).toPass();
  await elsewhere.close();

  await page.getByLabel("What it leads to").fill("~");
  await keyboard.press("Enter");
  await expect(page.getByText(/Say what it leads to in 1 to 20 letters/)).toBeVisible();
  await page.getByLabel("What it leads to").fill("winch relay");
  await keyboard.press("Enter");
  await page.getByLabel("Drain, winch relay parted, in mA").fill("0.3");
  await keyboard.press("Enter");
  await expect(page.getByText("Connector winch relay", { exact: true })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.reload();
  await ready(page);
  await expect(page.getByText("Still out: connector winch relay.")).toBeVisible();
  await page.getByRole("button", { name: "Connector winch relay back in" }).click();
  await page.getByRole("link", { name: "To the verdict" }).click();
  await expect(page).toHaveURL(/\/verdict$/);
});

test.describe("by thumb", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test("a drain found by taps: the unit's plugs change nothing and go back in, a fuse's does", async ({ shop: page, workshop }) => {
    await page.goto(`${await jobOf(page, workshop, "SK-133")}/drain`);
    await ready(page);
    const title = page.getByRole("heading", { level: 1 });
    const keep = async (label: RegExp, figure: string): Promise<void> => {
      await page.getByLabel(label).fill(figure);
      await page.getByRole("button", { name: "Keep" }).tap();
    };
    await page.getByRole("button", { name: "Key is out: wait" }).tap();
    await keep(/^Drain, key out/, "62");
    await expect(title).toHaveText("Too much: pull the unit's plugs next.");
    await keep(/^Drain, unit unplugged/, "61.5");
    await expect(page.getByText("Still out: the unit's plugs.")).toBeVisible();
    await page.getByRole("button", { name: /plugs back in$/ }).tap();
    await keep(/^Drain, fuse main pulled/, "0.2");
    await expect(title).toContainText("Found behind: Fuse main");
    await page.getByRole("button", { name: /^Fuse main.* back in$/ }).tap();
    await expect(page.getByText("All that was pulled is back in.")).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await page.getByRole("link", { name: "To the verdict" }).tap();
    await expect(page).toHaveURL(/\/verdict$/);
  });

  test("a drain within its limit ends the search with the line down, and the reading is kept", async ({ shop: page, workshop }) => {
    const job = await jobOf(page, workshop, "SK-207");
    await page.goto(`${job}?step=drain.current`);
    await ready(page);
    await page.getByRole("link", { name: /Search the drain as one loop/ }).tap();
    await expect(page).toHaveURL(/\/drain$/);
    await page.context().setOffline(true);
    await page.getByLabel("Drain, key out, in mA").fill("0,3");
    await page.getByRole("button", { name: "Keep" }).tap();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("Nothing drains it beyond its limit.");
    await expect(page.getByText(/1 not yet sent/)).toBeVisible();
    await page.context().setOffline(false);
    await expect(page.getByText("not yet sent")).toBeHidden();
    expect(await violations(page)).toEqual([]);
  });
});
