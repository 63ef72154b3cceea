import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { sheetCurve } from "../../core/budget/sheetCurve";
import { hasCapacitor } from "../../core/machine/capacitor";
import { healthyState } from "../../core/machine/state";
import { SCHOOLS, type School } from "../../core/procedure/schools";
import { DEMO_SHEETS } from "../../demo/sheets";
import { sheetOf } from "../../tests/support/population";
import { Budget } from "./Budget";

const [school] = SCHOOLS as [School];

describe("the charge budget on a sheet's page", () => {
  const machines = DEMO_SHEETS.filter((sheet) => !hasCapacitor(sheet));
  test.each(machines.map((sheet) => [sheet.id, sheet] as const))("%s: says from which speed its loads are fed, and every figure in words", (_id, sheet) => {
    const page = renderToStaticMarkup(<Budget sheet={sheet} school={school} curve={sheetCurve(sheet)} />);
    expect(page).toMatch(/Loads as ridden are fed from<\/dt><dd[^>]*>\d+ rpm/);
    expect(page).toMatch(/To spare at the test rpm<\/dt><dd[^>]*>\d+\.\d A/);
    expect(page).toMatch(/aria-label="Output against speed: [\d.]+ A at \d+ rpm/);
    expect(page).toMatch(/still starts it for \d+(\.\d)? days/);
    expect(page).toMatch(/About \d+ % charged|No battery of this kind rests/);
    expect(page).toMatch(/no longer starts after \d+ (min|h|days), and is flat after/);
    expect(page).toMatch(/Full after about \d+ (min|h)|It is full|cannot be said/);
    expect(page).toMatch(/This battery bears \d+\.\d A, \d+\.\d A for an hour at most, and \d+\.\d V/);
    expect(page).toMatch(/Turn home below, riding<\/dt><dd[^>]*>\d+\.\d V: the battery pays/);
    expect(page).not.toMatch(/NaN|Infinity|undefined/);
  });

  test("without a battery nothing is said of charge, charger and standing", () => {
    const sheet = sheetOf("ostrel-sanderling-250");
    const page = renderToStaticMarkup(<Budget sheet={sheet} school={school} curve={sheetCurve(sheet)} />);
    expect(page).toMatch(/At that speed \d+\.\d A are to spare/);
    expect(page).not.toMatch(/battery|charger|Key on|flat after|NaN|Infinity|undefined/i);
    const thirsty = renderToStaticMarkup(<Budget sheet={{ ...sheet, loadAmps: { normal: 40, all: 50 } }} school={school} curve={sheetCurve(sheet)} />);
    expect(thirsty).toMatch(/\d A are missing, and no battery pays for them/);
  });

  test("a machine that can never feed its loads is told so", () => {
    const [sheet] = DEMO_SHEETS;
    if (!sheet) throw new Error("no sheet");
    const page = renderToStaticMarkup(<Budget sheet={{ ...sheet, loadAmps: { normal: 80, all: 90 } }} school={school} curve={sheetCurve(sheet)} />);
    expect(page).toContain("no speed on this curve");
    expect(page).toMatch(/At that speed the battery pays \d/);
  });

  test("a smaller machine's curve ends lower, and drawing one warms no other", () => {
    const [sheet] = DEMO_SHEETS;
    if (!sheet) throw new Error("no sheet");
    expect(sheetCurve({ ...sheet, ratedAmps: 10 }).at(-1)?.amps).toBeLessThan(10.5);
    expect(sheetCurve(sheet)).toHaveLength(9);
    expect(healthyState(sheet).windingC).toBe(20);
  });

  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: its curve rises with speed, to about what the sheet rates it for", (_id, sheet) => {
    const curve = sheetCurve(sheet);
    expect(curve.length).toBeGreaterThan(4);
    for (const [k, { amps }] of curve.entries()) if (k > 0) expect(amps).toBeGreaterThan((curve[k - 1]?.amps ?? 0) - 0.3);
    const most = curve.at(-1)?.amps ?? 0;
    expect(most / (sheet.ratedAmps ?? most)).toBeGreaterThan(0.6);
    expect(most / (sheet.ratedAmps ?? most)).toBeLessThan(1.7);
  });
});
