import { conditionOf } from "../../core/machine/condition";
import type { SetFault } from "../../core/machine/defects";
import { ASSUMED_METER } from "../../core/meter/meter";
import { simulateStep } from "../../core/procedure/simulate";
import { sheetOf } from "../support/population";
import { LONG, takeIn, work } from "./advised";
import { expect, test } from "./workshop";

/** A whole job in each family that is not three-phase on magnets, by Uvrel's own advice and by keys: to the verdict, through the repair and its proof, to the report. */
const JOBS: { tag: string; sheet: string; fault: SetFault; says: RegExp }[] = [
  { tag: "SK-401", sheet: "mossgate-cloister-18", fault: { fault: "stator.winding-open", at: "1" }, says: /stator/i },
  { tag: "SK-404", sheet: "mossgate-pavilion-12", fault: { fault: "stator.diode-open", at: "D" }, says: /stator/i },
  { tag: "SK-141", sheet: "corvane-dabchick-50", fault: { fault: "stator.winding-open", at: "C" }, says: /stator/i },
  { tag: "SK-118", sheet: "corvane-tern-400", fault: { fault: "regulator.half-open", at: "lower" }, says: /regulator\/rectifier/i },
  { tag: "SK-213", sheet: "brannoch-tor-440", fault: { fault: "stator.winding-open", at: "1" }, says: /stator/i },
  { tag: "SK-125", sheet: "ostrel-sanderling-250", fault: { fault: "battery.capacitor-dry" }, says: /capacitor/i },
  { tag: "SK-310", sheet: "tidewright-farway-29", fault: { fault: "rotor.field-open" }, says: /rotor/i },
  { tag: "SK-117", sheet: "corvane-merle-250", fault: { fault: "stator.field-open" }, says: /field/i },
];

for (const { tag, sheet: id, fault, says } of JOBS) {
  test(`${id}: a whole job by its own advice`, async ({ shop: page, workshop }) => {
    const sheet = sheetOf(id);
    const { keyboard } = page;
    await takeIn(page, workshop, `unit:${tag}`);
    await work(page, sheet, [fault]);
    if (!/\/verdict$/.test(page.url())) await keyboard.press("v");
    await expect(page.getByText(/by the shop's prices/)).toBeVisible({ timeout: LONG });
    await expect(page.getByRole("heading", { level: 1 })).toContainText(says);

    await page.getByLabel("What was done").focus();
    await keyboard.type("Renewed.");
    await page.getByRole("button", { name: "Record the repair" }).focus();
    await keyboard.press("Enter");
    await expect(page.getByText("Renewed.")).toBeVisible();
    const speed = `${sheet.testRpm.toLocaleString("en")} rpm`;
    for (const [name, rpm, loads] of [
      ["Charging volts at the battery, idle after", "idle", "normal"],
      [`Charging volts at the battery, ${speed} after`, sheet.testRpm, "normal"],
      [`Charging volts at the battery, ${speed}, all loads after`, sheet.testRpm, "all"],
    ] as const) {
      const { value } = simulateStep(sheet, conditionOf([], { charge: 0.97 }), { test: "charge.volts", rpm, loads }, ASSUMED_METER);
      await page.getByLabel(name).focus();
      await keyboard.type(String(value));
      await keyboard.press("Enter");
      await expect(page.getByText(`${Number(value).toFixed(2)} V after, in band`).first()).toBeVisible();
    }
    await page.getByLabel("Note for next time").focus();
    await keyboard.type("Charges.");
    await keyboard.press("Enter");
    await expect(page).toHaveURL(/\/report$/);
    await expect(page.getByText(/Charges\./)).toBeVisible();
  });
}

test("a machine that nobody knows is found by what eyes see, and its wires by their ohms", async ({ shop: page, workshop }) => {
  await page.goto(`${workshop.url}/jobs/new`);
  await page.getByText("No sheet: what is it?").click();
  await page.getByLabel("Wires out of the engine").selectOption("4");
  await expect(page.getByText("That leaves one.")).toBeVisible();
  await page.getByRole("button", { name: /Two windings on four pins/ }).click();
  await page.getByLabel("Tag to hang on it").fill("K-9");
  await page.getByRole("button", { name: "Start on the bench" }).click();
  await page.waitForURL(/\/jobs\/\d+$/);
  await page.goto(`${page.url()}?step=stator.resistance~1-2`);
  await page.getByText("Which wire is which?").click();
  await page.getByLabel("Colour of the first").fill("brown");
  await page.getByLabel("brown to the second, Ω").fill("OL");
  await page.getByLabel("brown to the third, Ω").fill("1,7");
  await page.getByLabel("brown to the fourth, Ω").fill("OL");
  await page.getByLabel("the second to the third, Ω").fill("OL");
  await page.getByLabel("the second to the fourth, Ω").fill("nought");
  await expect(page.getByText("Ohms are a number, 0 or more, or OL for the open line.")).toBeVisible();
  await page.getByLabel("the second to the fourth, Ω").fill("0.5");
  await page.getByLabel("the third to the fourth, Ω").fill("OL");
  await expect(page.getByText("3 is brown: the auxiliary pair.")).toBeVisible();
  await expect(page.getByText("1 is the second: the charging pair.")).toBeVisible();
});
