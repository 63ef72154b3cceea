import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { healthyState } from "../../core/machine/state";
import { DEMO_SHEETS } from "../../demo/sheets";
import { Budget } from "./Budget";
import { curveOf } from "./curve.server";

describe("the charge budget on a sheet's page", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: says from which speed its loads are fed, and every figure in words", (_id, sheet) => {
    const page = renderToStaticMarkup(<Budget sheet={sheet} curve={curveOf(sheet)} />);
    expect(page).toMatch(/Loads as ridden are fed from<\/dt><dd[^>]*>\d+ rpm/);
    expect(page).toMatch(/To spare at the test rpm<\/dt><dd[^>]*>\d+\.\d A/);
    expect(page).toMatch(/aria-label="Output against speed: [\d.]+ A at \d+ rpm/);
    expect(page).toMatch(/still starts it for \d+(\.\d)? days/);
    expect(page).toMatch(/About \d+ % charged|No battery of this kind rests/);
    expect(page).not.toMatch(/NaN|Infinity|undefined/);
  });

  test("a machine that can never feed its loads is told so", () => {
    const [sheet] = DEMO_SHEETS;
    if (!sheet) throw new Error("no sheet");
    const page = renderToStaticMarkup(<Budget sheet={{ ...sheet, loadAmps: { normal: 80, all: 90 } }} curve={curveOf(sheet)} />);
    expect(page).toContain("no speed on this curve");
    expect(page).toMatch(/At that speed the battery pays \d/);
  });

  test("a curve is worked out once a version of the sheet", () => {
    const [sheet] = DEMO_SHEETS;
    if (!sheet) throw new Error("no sheet");
    expect(curveOf(structuredClone(sheet))).toBe(curveOf(sheet));
    const weaker = curveOf({ ...sheet, ratedAmps: 10 });
    expect(weaker.at(-1)?.amps).toBeLessThan(10.5);
    expect(curveOf(sheet)).toHaveLength(9);
    expect(healthyState(sheet).windingC).toBe(20);
  });
});
