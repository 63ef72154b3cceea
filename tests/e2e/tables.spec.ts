import { readFileSync } from "node:fs";
import { expect, jobOf, ready, test, violations } from "./workshop";

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

  await page.getByRole("link", { name: "From a file" }).click();
  await ready(page);
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("It is empty: choose a file or paste it.")).toBeVisible();
  await page.getByLabel("or paste it").fill("id;model\n1;2");
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText(/lacks the columns maker, family, test/)).toBeVisible();
  await expect(page.getByLabel("or paste it")).toHaveValue("id;model\n1;2");

  await page.getByLabel("Table (.csv) or documents (.json)").setInputFiles({ name: "sheets.csv", mimeType: "text/csv", buffer: Buffer.from(changed) });
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
  await page.getByLabel("Table (.csv) or documents (.json)").setInputFiles({ name: "huge.csv", mimeType: "text/csv", buffer: Buffer.alloc(2_050_000, "a") });
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("The file is larger than 2 MB: send it in parts.")).toBeVisible();
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

test("what a sheet said before stands on its page; the shelf goes out and comes in as documents", async ({ shop: page, workshop }) => {
  const documents = (await (await page.request.get(`${workshop.url}/machines.json`)).json()) as { id: string; model: string; testRpm: number }[];
  expect(documents.length).toBeGreaterThanOrEqual(16);
  const [first] = documents.filter(({ id }) => id === "corvane-linnet-125");
  if (!first) throw new Error("no sheet");
  await page.goto(`${workshop.url}/machines/import`);
  await ready(page);
  await page.getByLabel("or paste it").fill(JSON.stringify([{ ...first, testRpm: 5200 }, { id: "half" }]));
  await page.getByRole("button", { name: "Look it through" }).click();
  await expect(page.getByText("Corvane Linnet 125 (1 figure)")).toBeVisible();
  await expect(page.getByText(/^Row 2, maker/)).toBeVisible();
  await page.getByRole("button", { name: "Put 1 on the shelf" }).click();
  await expect(page).toHaveURL(/\/machines$/);
  await page.goto(`${workshop.url}/machines/corvane-linnet-125`);
  await page.getByText("Changed 1 time: what it said before").click();
  await expect(page.getByText("test rpm: 5000 → 5200")).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test("a machine left sound is the draft of a sheet for its sisters; one that is not, is none", async ({ shop: page, workshop }) => {
  await page.goto(workshop.url);
  const closed = page.getByRole("listitem").filter({ hasText: "repaired and proven" }).first().getByRole("link");
  await page.goto(`${workshop.url}${await closed.getAttribute("href")}`);
  await page.getByRole("link", { name: "Draft a sheet" }).click();
  await expect(page.getByText(/^Begun from job \d+: its readings/)).toBeVisible();
  await ready(page);
  await page.getByLabel("Short name").fill("a-sister");
  await page.getByRole("button", { name: "Put it on the shelf" }).click();
  await expect(page).toHaveURL(/\/machines\/a-sister$/);
  await expect(page.getByText(/^drawn from SK-/)).toBeVisible();
  const open = await jobOf(page, workshop, "SK-121");
  const refused = await page.request.get(`${workshop.url}/machines/new?from=${open.split("/").at(-1)}`);
  expect(refused.status()).toBe(404);
});

test("the shelf is looked through by a few letters, with a typing error too", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/machines`);
  await ready(page);
  const field = page.getByRole("searchbox");
  await field.fill("linet 125");
  await field.press("Enter");
  await expect(page.getByRole("link", { name: /^All \d+ sheets$/ })).toBeVisible();
  await expect(page.getByRole("link", { name: "Corvane Linnet 125" })).toBeVisible();
  await field.fill("zzzz");
  await field.press("Enter");
  await expect(page.getByText(/Nothing on the shelf is called anything like “zzzz”/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole("link", { name: /^All \d+ sheets$/ }).click();
  await expect(page.getByRole("link", { name: "Tidewright Reach 90" })).toBeVisible();
});
