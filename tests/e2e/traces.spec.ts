import { spawnSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { expect, jobOf, ready, test, violations } from "./workshop";

/** A log as a cheap logger writes it: rest, key on, a crank, idle, revved, loads on, stopped. */
function log(rate: number, top = 14.3): string {
  const legs = [
    [6, 12.7],
    [6, 12.4],
    [2, 10.2],
    [7, 13.4],
    [7, top],
    [6, top - 0.4],
    [10, 12.8],
  ] as const;
  const rows = ["Logger 7", "", "Zeit [s];Batterie [V];Temp"];
  let [value, at] = [12.7, 0];
  for (const [seconds, to] of legs)
    for (let k = 0; k < seconds * rate; k++, at++) {
      value += (to - value) * (1 - Math.exp(-1 / rate / (to === 12.8 ? 4 : 0.08)));
      rows.push(`${(at / rate).toFixed(3)};${(value + 0.004 * Math.sin(7.1 * at)).toFixed(3)};21`.replaceAll(".", ","));
    }
  return rows.join("\n");
}

const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });

test("a log is read into the job: phases found, one moved, figures lifted with their place, the trace on the report", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}?step=battery.crank`);
  await ready(page);
  await page.getByRole("link", { name: "Read a logged trace instead" }).click();
  await expect(page.getByText("No trace is kept yet.")).toBeVisible();
  const input = page.getByLabel("Log (.csv, .txt)");
  for (const [name, text, says] of [
    ["prose.csv", "Dear customer,\nyour battery is flat.", /^No table was found in it/],
    ["empty.csv", "", /^The file is empty\.$/],
    ["back.csv", "t,v\n0,12\n1,12\n0.5,12\n2,12\n3,12\n4,12", /^Row 4: its time lies before/],
  ] as const) {
    await input.setInputFiles(file(name, text));
    await expect(page.getByRole("alert").getByText(says)).toBeVisible();
  }
  await input.setInputFiles(file("morning.csv", log(100)));
  const phases = page.getByRole("region", { name: "Phases" });
  await expect(phases.getByRole("listitem")).toHaveText([/^at rest/, /^key on/, /^crank/, /^idle/, /^revved/, /^loads on/, /^stopped/]);
  await expect(page.getByText(/4,400 samples, 100 a second/)).toBeVisible();
  await expect(page.getByText(/decimal commas/)).toBeVisible();
  const figures = page.getByRole("region", { name: "Figures" });
  await expect(figures.getByRole("listitem").filter({ hasText: "Crank dip" })).toContainText("10.2");
  await expect(page.getByRole("img", { name: /^morning\.csv: at rest from 0\.0 s/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);

  // A boundary moved by hand: what follows from it is worked out anew.
  const revved = phases.getByLabel(/^revved begins/);
  await revved.fill("99");
  await expect(revved).toHaveAttribute("aria-invalid", "true");
  await revved.fill("22.5");
  await expect(revved).not.toHaveAttribute("aria-invalid", "true");
  await figures
    .getByLabel(/^Rpm of Charging volts at the battery at 2/)
    .first()
    .fill("fast");
  await expect(figures.getByText("Rpm must be a whole number from 100 to 20,000, or “idle”.")).toBeVisible();
  await figures
    .getByLabel(/^Rpm of Charging volts at the battery at 2/)
    .first()
    .fill("4800");
  for (const ripple of await figures.getByRole("checkbox", { name: /^Ripple/ }).all()) await ripple.uncheck();
  await figures.getByRole("button", { name: /^Put \d+ into the job, with the trace$/ }).click();
  await expect(page.getByText(/readings of morning\.csv put into the job\.$/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Kept traces" }).getByRole("img", { name: /^Trace morning\.csv/ })).toBeVisible();
  await expect(page.getByText("not yet sent")).toHaveCount(0);

  await page.goto(`${job}?step=battery.crank`);
  await expect(page.getByText(/^10\.[012]\d V kept\./)).toBeVisible();
  await page.goto(`${job}/report`);
  await expect(page.getByRole("heading", { name: "Volts over time" })).toBeVisible();
  await expect(page.getByRole("img", { name: /^Trace morning\.csv/ })).toBeVisible();
});

test("a log is looked at before its machine is known, is put to a job then, and is listed once it is kept", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${workshop.url}/traces`);
  await ready(page);
  const input = page.getByLabel("Log (.csv, .txt)");
  await input.setInputFiles(file("empty.csv", ""));
  await expect(page.getByRole("alert").getByText("The file is empty.")).toBeVisible();
  await input.setInputFiles(file("found.csv", log(100)));
  const figures = page.getByRole("region", { name: "Figures" });
  await expect(figures.getByRole("listitem").filter({ hasText: "Crank dip" })).toContainText("10.2");
  // Read as of a machine of 6 V it is another story, and on 12 V the same again.
  await page.getByLabel("of a machine of").selectOption("6");
  await expect(figures.getByRole("listitem").filter({ hasText: "Crank dip" })).toHaveCount(0);
  await page.getByLabel("of a machine of").selectOption("12");
  await expect(figures.getByRole("listitem").filter({ hasText: "Crank dip" })).toContainText("10.2");
  expect(await violations(page)).toEqual([]);

  const there = figures.getByRole("button", { name: "Read it there" });
  await expect(there).toBeDisabled();
  const machine = figures.getByLabel("Nothing of it is kept yet. It is of");
  await machine.selectOption({ label: (await machine.getByRole("option", { name: /^SK-121/ }).textContent()) ?? "" });
  await there.click();
  await expect(page).toHaveURL(`${job}/traces`);
  await page
    .getByRole("region", { name: "Figures" })
    .getByRole("button", { name: /^Put \d+ into the job, with the trace$/ })
    .click();
  await expect(page.getByText(/readings of found\.csv put into the job\.$/)).toBeVisible();
  // What still waits is told above every page, and moves what is below while a link there is pressed.
  await expect(page.getByText("not yet sent")).toHaveCount(0);
  await page.goto(`${workshop.url}/traces`);
  await ready(page);
  const kept = page.getByRole("region", { name: "Kept traces" }).getByRole("listitem").first();
  await expect(kept).toHaveText(/^found\.csv.*SK-121/);
  await kept.getByRole("link").click();
  await expect(page).toHaveURL(`${job}/traces`);
});

test("two traces beside each other, zoomed and walked through; a closed job's can be looked at", async ({ shop: page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-133");
  await page.goto(`${job}/traces`);
  await ready(page);
  const input = page.getByLabel("Log (.csv, .txt)");
  await input.setInputFiles(file("before.csv", log(50, 13.6)));
  await page.getByRole("button", { name: /^Put \d+ into the job/ }).click();
  await expect(page.getByText(/put into the job\.$/)).toBeVisible();
  await input.setInputFiles(file("after.csv", log(50)));
  await page.getByLabel("beside it").selectOption({ label: "before.csv" });
  await page.getByRole("button", { name: "Closer" }).click();
  await page.getByRole("button", { name: "Later" }).click();
  const chart = page.getByRole("img", { name: /^after\.csv/ });
  await chart.click({ position: { x: 300, y: 120 } });
  await expect(page.getByText(/^1: \d+\.\d\d s, 1\d\.\d\d V$/)).toBeVisible();
  await chart.click({ position: { x: 500, y: 120 } });
  await expect(page.getByText(/; apart \d+\.\d\d s$/)).toBeVisible();
  await page.getByRole("button", { name: "All" }).click();
  expect(await violations(page)).toEqual([]);
});

test("uvrel trace prints phases and figures, and refuses what is no trace", async () => {
  const folder = test.info().outputDir;
  const path = join(folder, "log.csv");
  const { mkdirSync } = await import("node:fs");
  mkdirSync(folder, { recursive: true });
  writeFileSync(path, log(100));
  const run = (...args: string[]) => spawnSync(process.execPath, ["build/tools/uvrel.js", "trace", ...args], { encoding: "utf8" });
  const read = run(path);
  expect(read.status).toBe(0);
  const told = JSON.parse(read.stdout) as {
    samples: number;
    ratePerSecond: number;
    phases: { phase: string }[];
    figures: { test: string; value: number; at: number }[];
    notes: string[];
  };
  expect([told.samples, told.ratePerSecond]).toEqual([4400, 100]);
  expect(told.phases.map(({ phase }) => phase)).toEqual(["rest", "key-on", "crank", "idle", "run", "loads", "off"]);
  expect(told.figures.find((figure) => figure.test === "battery.crank")?.value).toBeCloseTo(10.2, 1);
  expect(told.notes).toContain("decimal commas");
  expect(run(path, "--column", "Temp").status).toBe(0);
  for (const [args, says] of [
    [[path, "--column", "amps"], /^column: There is no column “amps”/],
    [[path, "--system", "24"], /^system: “24” must be 12 or 6/],
    [["nowhere.csv"], /^file: nowhere\.csv cannot be read/],
  ] as const) {
    const refused = run(...args);
    expect([refused.status, refused.stdout]).toEqual([2, ""]);
    expect(refused.stderr).toMatch(says);
  }
});
