import { expect, jobOf, ready, test, violations } from "./workshop";

test("anything is found by a few letters and by keys, with a typing error, from any page; with the line down the pages still are", async ({
  shop: page,
  workshop,
}) => {
  const job = await jobOf(page, workshop, "SK-207");
  await page.goto(job);
  await ready(page);
  const field = page.getByLabel(/Tag, name, maker, model/);
  await page.keyboard.press("/");
  await expect(field).toBeFocused();
  await page.keyboard.type("farwey 29");
  await expect(page.getByRole("link", { name: /Sheet Tidewright Farway 29/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await field.fill("mountain hare");
  await expect(page.getByRole("link", { name: /Machine SK-207 Mountain Hare/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(`${workshop.url}/units/SK-207`);
  // The address is there before its page; the panel of the page that goes would go with it.
  await expect(page.getByRole("heading", { name: /Mountain Hare/ })).toBeVisible();
  await expect(field).toBeHidden();

  await page.keyboard.press("/");
  await field.fill("zzzz");
  await expect(page.getByText("Nothing is called so.")).toBeVisible();
  await page.context().setOffline(true);
  await field.fill("shop");
  await expect(page.getByText(/The server cannot be reached/)).toBeVisible();
  await expect(page.getByRole("link", { name: /^Page Shop/ })).toBeVisible();
  await page.context().setOffline(false);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/settings$/);
});
