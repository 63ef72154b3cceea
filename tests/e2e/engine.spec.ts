import { LONG } from "./advised";
import { expect, jobOf, ready, test, tool } from "./workshop";

test("the odds come by themselves, name the part and its readings, and a reading can be left out to see what if", async ({ shop, workshop }) => {
  await shop.goto(await jobOf(shop, workshop, "SK-133"));
  const standing = shop.getByRole("region", { name: "Standing" });
  // Until the charts are drawn the fixed order serves.
  await expect(standing).toBeVisible();
  await expect(standing.getByText("What each reading says by itself")).toBeVisible({ timeout: LONG });
  await expect(standing.getByRole("listitem").first()).toContainText("Wiring");
  await expect(standing.getByRole("listitem").first()).toContainText("as good as sure");
  const out = standing.getByRole("button", { name: /^Leave out/ }).first();
  await out.click();
  await expect(standing).toContainText("1 left out");
  await standing
    .getByRole("button", { name: /^Count/ })
    .first()
    .click();
  await expect(standing).not.toContainText("left out");
});

test("by the odds, a kept reading leads to the next one worth taking, which says why", async ({ shop, workshop }) => {
  await shop.evaluate(() => localStorage.setItem("uvrel.order", "odds"));
  await shop.goto(await jobOf(shop, workshop, "SK-121"));
  await ready(shop);
  const plan = shop.getByRole("region", { name: "Plan" });
  await expect(plan).toBeVisible({ timeout: LONG });
  await expect(plan).toContainText(/Engine off, key out/);
  await expect(plan).toContainText(/Splits .+ from .+ min/);
  await expect(plan).toContainText(/Then engine/);
  await shop.locator("h1").click();
  await shop.keyboard.press("a");
  const advised = (await plan.locator("[data-advised] .underline").textContent()) ?? "";
  await expect(shop.locator("h1")).toHaveText(advised);
});

test("the verdict names part, odds, what was ruled out and what it costs", async ({ shop, workshop }) => {
  await shop.goto(`${await jobOf(shop, workshop, "SK-114")}/verdict`);
  await expect(shop.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
  await expect(shop.locator("h1")).toContainText(/stator/i);
  await expect(shop.getByText(/leg 1/).first()).toBeVisible();
  await expect(shop.getByRole("heading", { name: "Ruled out" })).toBeVisible();
});

test("not cured: the proof's readings go to the same odds, which go on from what is known; the record keeps what was found", async ({ shop, workshop }) => {
  const job = await jobOf(shop, workshop, "SK-114");
  await shop.goto(`${job}/verdict`);
  await expect(shop.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
  const found = (await shop.locator("h1").textContent()) ?? "";
  await shop.getByLabel("What was done").fill("Stator renewed.");
  await shop.getByRole("button", { name: "Record the repair" }).click();
  await expect(shop.locator("h1")).toContainText(/cured/i, { timeout: LONG });
  for (const [name, value] of [
    [/^Charging.* 5,000 rpm after/, "12.3"],
    [/^Charging.* all loads after/, "12.1"],
    [/^Charging.* idle after/, "12.2"],
  ] as const) {
    await shop.getByLabel(name).fill(value);
    await shop.getByLabel(name).press("Enter");
    await expect(shop.getByText(`${Number(value).toFixed(2)} V after`)).toBeVisible();
  }
  await expect(shop.locator("h1")).not.toContainText(/cured/i, { timeout: LONG });
  await shop.goto(job);
  const standing = shop.getByRole("region", { name: "Standing" });
  await expect(standing.getByRole("listitem").first()).toContainText("Regulator/rectifier", { timeout: LONG });
  await expect(standing.getByRole("listitem").filter({ hasText: "Stator" }).first()).toContainText("cleared");
  await expect(standing).not.toContainText("touches the engine case");
  await shop.goto(`${job}/report`);
  await expect(shop.locator("h1")).toContainText(found);
});

test("prices are kept, and a wrong one is named", async ({ shop, workshop }) => {
  await shop.goto(`${workshop.url}/settings`);
  await ready(shop);
  await shop.getByText("what parts cost").click();
  await shop.getByRole("textbox", { name: "Labour, an hour" }).fill("-4");
  await shop.getByRole("button", { name: "Keep these prices" }).click();
  await expect(shop.getByText("Must be 0 or more.")).toBeVisible();
  await shop.getByRole("textbox", { name: "Labour, an hour" }).fill("72");
  await shop.getByRole("button", { name: "Keep these prices" }).click();
  await expect(shop.getByText("an hour of labour 72")).toBeVisible();
});

test("advice and predictions belong to a job that exists, and to parts there are", async ({ shop, workshop }) => {
  for (const what of ["advice", "predictions"]) expect((await shop.request.get(`${workshop.url}/jobs/9999/${what}`)).status()).toBe(404);
  const horn = await shop.request.get(`${await jobOf(shop, workshop, "SK-121")}/predictions?mended=horn`);
  expect(horn.status()).toBe(400);
  expect(((await horn.json()) as { why: string }).why).toMatch(/^mended: must be parts out of battery/);
});

test("whoever asks for odds while charts are drawn is told how far they are, then gets odds and what the machine would show, small and once", async ({
  shop,
  workshop,
}) => {
  const form = { machine: "family:three-phase-series/6", ambientC: "20" };
  const takeIn = async (): Promise<string> => {
    const taken = await shop.request.post(`${workshop.url}/jobs/new`, { form, headers: { Origin: workshop.url }, maxRedirects: 0 });
    return `${workshop.url}${taken.headers().location}`;
  };
  const job = await takeIn();
  const first = await shop.request.get(`${job}/advice`);
  expect(first.status()).toBe(202);
  const { state, of } = (await first.json()) as { state: string; of: number };
  expect(state).toBe("drawing");
  // Nobody knows whether such a machine is wound as a wye or a delta: it has the charts of both.
  expect(of).toBeGreaterThan(100);
  await expect.poll(async () => (await shop.request.get(`${job}/advice`)).status(), { timeout: LONG }).toBe(200);
  const answer = (await (await shop.request.get(`${job}/advice`)).json()) as { advice: { next: object[] }; weighed: string[] };
  expect(answer.advice.next.length).toBeGreaterThan(0);
  expect(answer.weighed).toEqual([]);
  // A pack takes its time on a busy machine: until it is made, whoever asks is told to ask again.
  await expect.poll(async () => (await shop.request.get(`${job}/predictions`)).status(), { timeout: LONG }).toBe(200);
  const pack = await shop.request.get(`${job}/predictions`);
  expect((await pack.body()).length).toBeLessThan(1_500_000);
  const again = await shop.request.get(`${await takeIn()}/predictions`, { headers: { "If-None-Match": pack.headers().etag ?? "" } });
  expect(again.status()).toBe(304);
  expect((await shop.request.get(`${job}/predictions?odd`)).status()).toBe(204);
});

test("consult asks, weighs and ends with a verdict; what it cannot read changes nothing", () => {
  const lines = [
    { open: { uvrelCase: 1, machine: { sheet: "ostrel-burro-520" }, readings: [] } },
    { reading: { test: "stator.toGround", at: "2", value: 3 } },
    { reading: { test: "stator.toGround", at: "9", value: 3 } },
    { reading: { test: "horn.volts", value: 3 } },
    { open: { uvrelCase: 1, machine: { family: "steam" }, readings: [] } },
    { skip: { test: "battery.rest" } },
    { repaired: ["stator"] },
    { nonsense: true },
  ];
  const result = tool("bin/uvrel.mjs", ["consult"], {}, `${lines.map((line) => JSON.stringify(line)).join("\n")}\nnot json\n`);
  expect(result.status).toBe(0);
  const answers = result.stdout
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line));
  expect(answers).toHaveLength(9);
  expect(answers[0].next[0]).toMatchObject({ test: expect.any(String), why: expect.any(String), minutes: expect.any(Number) });
  expect(answers[1].standing.sets[0].set).toContain("stator");
  expect(answers[2].error[0].field).toBe("reading.at");
  expect(answers[3].error[0].error).toContain("horn.volts");
  expect(answers[4].error[0].error).toContain("steam");
  expect(answers[6].next[0]).toMatchObject({ test: "battery.crank" });
  expect(answers[7].error).toBeDefined();
  expect(answers[8].error[0].error).toBe("is not JSON");
});

test("diagnose reads one case a line and answers line by line", () => {
  const good = { uvrelCase: 1, machine: { sheet: "ostrel-burro-520" }, readings: [{ test: "stator.toGround", at: "2", value: 3 }] };
  const result = tool("bin/uvrel.mjs", ["diagnose", "--lines", "-"], {}, `${JSON.stringify(good)}\n${JSON.stringify({ ...good, uvrelCase: 2 })}\n`);
  expect(result.status).toBe(2);
  const [first, second] = result.stdout
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line));
  expect(first.parts[0].part).toBe("stator");
  expect(first.readings[0].push.stator).toBeGreaterThan(0);
  expect(second.error[0].field).toBe("uvrelCase");
  expect(result.stderr).toMatch(/^line 2, uvrelCase: must be 1/);
});

test("bench refuses what it does not know", () => {
  expect(tool("bin/uvrel.mjs", ["bench", "horoscopes"]).stderr).toMatch(/must be one of diagnosis/);
  expect(tool("bin/uvrel.mjs", ["bench", "diagnosis", "many"]).stderr).toMatch(/cases: must be a whole number/);
});
