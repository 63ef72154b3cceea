import { expect, test } from "./workshop";

test("a sheet's charge budget: an extra moves the break-even, a short ride is reckoned, bad figures say what is allowed", async ({ page, workshop }) => {
  await page.goto(`${workshop.url}/machines/corvane-ferrel-650`);
  const budget = page.getByRole("region", { name: "Charge budget" });
  await expect(budget.locator("canvas")).toBeVisible();
  const fed = budget.locator("dd").first();
  const before = Number.parseInt((await fed.textContent()) ?? "", 10);
  await budget.getByLabel("Extra load").fill("6");
  await expect.poll(async () => Number.parseInt((await fed.textContent()) ?? "", 10)).toBeGreaterThan(before);
  await budget.getByLabel("Extra load").fill("40");
  await expect(fed).toHaveText("no speed on this curve");
  await expect(budget.getByText(/At that speed the battery pays/)).toBeVisible();

  await budget.getByLabel("Drain, key out").fill("-5");
  await expect(budget.getByLabel("Drain, key out")).toHaveAttribute("aria-invalid", "true");
  await expect(budget.getByLabel("Drain, key out")).toHaveValue("-5");
  await budget.getByLabel("Drain, key out").fill("225");
  await expect(budget.getByText("A full 9 Ah battery still starts it for 1.0 days.")).toBeVisible();

  await budget.getByLabel("Rest volts, rested overnight").fill("12.1");
  await expect(budget.getByText(/About 2\d % charged/)).toBeVisible();
  await budget.getByLabel("Rest volts, rested overnight").fill("7");
  await expect(budget.getByText("No battery of this kind rests at those volts.")).toBeVisible();
});

test("charts are loaded only where one is shown, and nothing leaves the machine", async ({ page, workshop }) => {
  const scripts: string[] = [];
  const strays: string[] = [];
  page.on("request", (request) => {
    if (request.url().endsWith(".js")) scripts.push(request.url());
    if (!request.url().startsWith(workshop.url) && !/^(data|blob):/.test(request.url())) strays.push(request.url());
  });
  await page.goto(workshop.url);
  await page.waitForLoadState("networkidle");
  expect(scripts.some((url) => /echarts/.test(url))).toBe(false);
  await page.goto(`${workshop.url}/machines/corvane-ferrel-650`);
  await expect(page.locator("canvas")).toBeVisible();
  expect(scripts.some((url) => /echarts/.test(url))).toBe(true);
  expect(strays).toEqual([]);
});
