import { readFileSync } from "node:fs";
import { expect, ready, test, violations } from "./workshop";

test("the shelf goes out as a table, is changed outside, looked through row by row, and kept whole or not at all", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/machines`);
  await ready(page);
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "As a table" }).click();
  const table = readFileSync(await (await download).path(), "utf8");
  const changed = table
    .replace("Ferrel 650,2016–2023", "Ferrel 650,2016–2024")
    .replaceAll("ostrel-burro-520", "ostrel-burro-521")
    .replace(",three-phase-series,", ",steam,");

  await page.getByRole("link", { name: "From a table" }).click();
  await ready(page);
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("The table is empty: choose a file or paste it.")).toBeVisible();
  await page.getByLabel("or paste it").fill("id;model\n1;2");
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText(/lacks the columns maker, family, test/)).toBeVisible();
  await expect(page.getByLabel("or paste it")).toHaveValue("id;model\n1;2");

  await page.getByLabel("Table (.csv)").setInputFiles({ name: "sheets.csv", mimeType: "text/csv", buffer: Buffer.from(changed) });
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("Corvane Ferrel 650 (1 figure)")).toBeVisible();
  await expect(page.getByText(/family: “steam” is not a family/)).toBeVisible();
  await expect(page.getByRole("region", { name: "What it would do" }).getByText(/Ostrel Burro 520/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  // Looked at only: nothing is kept yet.
  expect(await (await page.request.get(`${workshop.url}/machines.csv`)).text()).toBe(table);
  await page.getByRole("button", { name: "Put 2 on the shelf" }).click();
  await expect(page).toHaveURL(/\/machines$/);
  const kept = await (await page.request.get(`${workshop.url}/machines.csv`)).text();
  expect(kept).toContain("2016–2024");
  expect(kept).toContain("ostrel-burro-521");
  expect(kept).not.toContain("steam");

  await page.goto(`${workshop.url}/machines/import`);
  await ready(page);
  await page.getByLabel("Table (.csv)").setInputFiles({ name: "huge.csv", mimeType: "text/csv", buffer: Buffer.alloc(2_050_000, "a") });
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("The file is larger than 2 MB: send the table in parts.")).toBeVisible();
});

test("a sheet is copied under a name of its own, and laid beside its sister", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/machines/corvane-linnet-125`);
  await ready(page);
  await page.getByRole("link", { name: "Copy", exact: true }).click();
  await expect(page.getByText(/^Begun as a copy of Corvane Linnet 125/)).toBeVisible();
  await ready(page);
  await page.getByLabel("Short name").fill("corvane-linnet-150");
  await page.getByLabel("Model", { exact: true }).fill("Linnet 150");
  await page.getByLabel("Rated output, A").fill("13.5");
  await page.getByRole("button", { name: "Put it on the shelf" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Corvane Linnet 150" })).toBeVisible();

  await page.getByText("Lay another sheet beside it").click();
  await page.getByLabel("Sheet", { exact: true }).selectOption("corvane-linnet-125");
  await page.getByRole("button", { name: "Compare" }).click();
  await expect(page.getByText("They differ in 1 figure.")).toBeVisible();
  await expect(page.getByRole("row", { name: /rated amps 13\.5/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
