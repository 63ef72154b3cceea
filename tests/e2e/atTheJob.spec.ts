import { expect, jobOf, ready, test, violations } from "./workshop";

test("charging walked through speed by speed: a curve, where it begins, what swings; bad figures say what is allowed", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}?step=${encodeURIComponent("charge.volts~~idle~normal")}`);
  await ready(page);
  await page.getByRole("link", { name: "Walk through the speeds" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Charging, speed by speed");
  const [speed, low, high] = [page.getByLabel(/^Speed, rpm/), page.getByLabel("Volts, or the lowest"), page.getByLabel("Highest, where it swings")];
  const read = async (rpm: string, lowest: string, highest = ""): Promise<void> => {
    await speed.fill(rpm);
    await low.fill(lowest);
    await high.fill(highest);
    await low.press("Enter");
  };
  await read("fast", "13");
  await expect(page.getByText("Rpm must be a whole number from 100 to 20,000, or empty for idle.")).toBeVisible();
  await expect(low).toHaveValue("13");
  await read("2500", "14", "13");
  await expect(page.getByText("The highest is below the lowest")).toBeVisible();
  await read("", "12.1");
  const curve = page.getByRole("region", { name: "As ridden" });
  await expect(curve.getByText("one more speed tells from where it charges")).toBeVisible();
  await read("2500", "13.4");
  await expect(curve.getByText(/charges from about \d+ rpm/)).toBeVisible();
  await read("5000", "13.7", "14.7");
  await expect(curve.getByText(/14\.20 V, swings by 1\.00 V, pulsing/)).toBeVisible();
  await expect(page.getByRole("img", { name: /^Charging volts against speed\. as ridden: 12\.10 V at/ })).toBeVisible();
  await page.getByText("Ripple, output, just stopped").click();
  await page.getByLabel("Just stopped, within ten seconds, in V").fill("13.1");
  await page.getByLabel("Just stopped, within ten seconds, in V").press("Enter");
  await expect(page.getByText("Stopped, the volts fell by 1.10 V.")).toBeVisible();
  expect(await violations(page)).toEqual([]);
  // What was kept here stands on the bench.
  await page.getByRole("link", { name: "Back to the bench" }).click();
  await page.goto(`${job}?step=${encodeURIComponent("charge.volts~~5000~normal")}`);
  await expect(page.getByText("14.20 V kept.")).toBeVisible();
});

test("onto the charger, off it, rested: the bench and the rail say until when", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-133");
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await page.keyboard.press("e");
  const panel = page.getByRole("dialog");
  await panel.getByLabel("Charger gives").fill("much");
  await expect(panel.getByText("Amps must be a number from 0.1 to 100.")).toBeVisible();
  await panel.getByLabel("Charger gives").fill("90");
  await expect(panel.getByText(/That charger is too large for it\./)).toBeVisible();
  await panel.getByLabel("Charger gives").fill("1,5");
  expect(await violations(page)).toEqual([]);
  await panel.getByRole("button", { name: "It is on the charger" }).click();
  const wait = page.getByRole("region", { name: "Wait" });
  await expect(wait.getByText(/^On the charger \(1,5 A\) until /)).toBeVisible();
  await expect(page.getByText("not yet sent")).toBeHidden();
  await page.goto(workshop.url);
  await expect(page.getByText(/^On the charger \(1,5 A\) until /)).toBeVisible();
  await page.goto(job);
  await ready(page);
  await wait.getByRole("button", { name: /^Off the charger: rest \d/ }).click();
  await expect(wait.getByText(/^Resting until /)).toBeVisible();
  await wait.getByRole("button", { name: "Wait no longer" }).click();
  await expect(wait).toHaveCount(0);

  await page.keyboard.press("e");
  await panel.getByRole("button", { name: "It is on order" }).click();
  await expect(panel.getByText("Say which part, in 200 characters at most.")).toBeVisible();
  await panel.getByLabel("Which").fill("regulator");
  await panel.getByRole("button", { name: "It is on order" }).click();
  await expect(wait.getByText("Waiting for a part (regulator)")).toBeVisible();
});

test("a wait that runs out says so by itself", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-133");
  await page.clock.install();
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await page.keyboard.press("e");
  await page
    .getByRole("dialog")
    .getByLabel(/hours, charger off/)
    .fill("0.5");
  await page.getByRole("dialog").getByRole("button", { name: "It rests" }).click();
  const wait = page.getByRole("region", { name: "Wait" });
  await expect(wait.getByText(/^Resting until /)).toBeVisible();
  await page.clock.fastForward("31:00");
  await expect(wait.getByText("Rested enough")).toBeVisible();
  await expect(wait.getByRole("link", { name: "Rest volts" })).toBeVisible();
  await wait.getByRole("button", { name: "Go on" }).click();
  await expect(wait).toHaveCount(0);
});

test("what injures is said to have been read once a job, and the report tells when", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}?step=${encodeURIComponent("stator.acVolts~1-2~5000")}`);
  await ready(page);
  const card = page.getByRole("region", { name: "Probe card" });
  await expect(card.getByRole("button", { name: /^I have read these/ })).toBeVisible();
  await page.keyboard.press("u");
  await expect(card.getByRole("button", { name: /^I have read/ })).toHaveCount(0);
  await page.keyboard.type("31");
  await page.keyboard.press("Enter");
  await expect(page.getByText("not yet sent")).toBeHidden();
  await page.goto(`${job}/report`);
  await expect(page.getByText(/^Unplugged, it makes up to 100 V AC.* Read \d/)).toBeVisible();
});

test("a plain cause is proven by three control readings, and ends the job with what they rule out", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/jobs/new`);
  await ready(page);
  await page.getByText("A Corvane Ferrel 650").click();
  await page.getByText("Key or lights left on?").click();
  await page.getByRole("button", { name: "Start on the bench" }).click();
  const plain = page.getByRole("region", { name: "Plain cause" });
  await expect(plain.getByText("Key or lights left on? Yes.")).toBeVisible();
  await ready(page);
  const read = async (title: string | RegExp, value: string): Promise<void> => {
    await plain.getByRole("link", { name: title }).click();
    await expect(page.getByRole("heading", { level: 1, name: title })).toBeVisible();
    await page.locator("#entry input[name=value]").fill(value);
    await page.locator("#entry input[name=value]").press("Enter");
  };
  await read("Rest volts", "11.9");
  await expect(plain.getByText(/^Flat, as after such a cause it must be/)).toBeVisible();
  await plain.getByRole("link", { name: "Rest volts" }).click();
  await page.getByLabel("after a full charge").check();
  await read("Rest volts", "12.8");
  await read("Crank dip", "10.9");
  await read(/^Charging volts at the battery/, "14.2");
  await expect(plain.getByText("Nothing has failed.")).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await expect(page.getByText("not yet sent")).toBeHidden();
  await plain.getByRole("link", { name: "End it at the verdict" }).click();
  await expect(page.getByLabel("How it ends")).toHaveValue("plain-cause");
  await expect(page.getByLabel("Note for next time")).toHaveValue(/Ruled out: a battery that holds no charge; battery and starter under load; rotor/);
  await page.getByRole("button", { name: "Close the job" }).click();
  await expect(page).toHaveURL(/\/report$/);
  await expect(page.getByText(/^Plain cause, nothing failed: Key or lights left on\? Yes\. Read: /)).toBeVisible();
});

test("a known-good unit in, out and in again settles the unit, with its figures kept", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}?step=swap.unit`);
  await ready(page);
  const swap = page.getByRole("region", { name: "Swap there and back" });
  for (const [what, value] of [
    ["Its own unit", "12.1"],
    ["Known-good unit in", "14.2"],
    ["Its own back in", "12.2"],
    ["Known-good in again", "14.1"],
  ] as const) {
    await swap.getByLabel(`${what}: charging volts`).fill(value);
    await swap.getByLabel(`${what}: charging volts`).press("Enter");
    await expect(swap.getByText(`${value}0 V`)).toBeVisible();
  }
  await expect(swap.getByText("the unit has failed")).toBeVisible();
  await swap.getByRole("button", { name: "Keep: fixed" }).click();
  await expect(page.getByText(/^Kept Known-good unit/)).toBeVisible();
});
