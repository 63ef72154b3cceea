import { beforeAll, describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { seedDemo } from "../../demo/workshop";
import type { Store } from "../../store/store";
import { openStore } from "../../tests/support/store";
import { type LoggedTest, loggedTests } from "./log.server";
import { extentOf } from "./scale";
import { TrendStrip } from "./TrendStrip";

const NOW = new Date("2026-06-01T12:00:00.000Z");
let store: Store;
beforeAll(() => {
  store = openStore();
  seedDemo(store, NOW);
});

const logOf = (tag: string): LoggedTest[] => loggedTests(store, tag, NOW.getTime());
const of = (tests: LoggedTest[], id: string): LoggedTest => tests.find(({ log }) => log.step.test === id) as LoggedTest;
const draw = (test: LoggedTest): string => renderToStaticMarkup(<TrendStrip test={test} id="s" />);

describe("the log of a demo machine", () => {
  test("a tiring battery is warned of in words; its other tests are not", () => {
    const tests = logOf("SK-305");
    expect(tests.filter(({ says }) => says).map(({ log }) => log.step.test)).toEqual(["battery.crank"]);
    expect(of(tests, "battery.crank").coldest).toMatchObject({ by: expect.any(Number) });
    expect(of(tests, "battery.crank").coldest?.by).toBeLessThan(0);
    expect(of(tests, "charge.positiveDrop").coldest).toBeUndefined();
  });

  test("a corroding joint is warned of, without speaking of the air that plays no part in it", () => {
    const { says } = of(logOf("SK-211"), "charge.positiveDrop");
    expect(says).toMatch(/^Drop, unit's output to the battery.* climbs 0\.\d+ V a year: above 0\.30 V by/);
  });

  test("a machine on the bench is not warned of by what ails it now", () => {
    for (const tag of ["SK-207", "SK-114", "SK-109"]) expect(logOf(tag).filter(({ says }) => says)).toEqual([]);
  });

  test("sisters of the same sheet stand beside it, by their tags; a machine alone has none", () => {
    const { sisters } = of(logOf("SK-206"), "battery.rest");
    expect(sisters.map(({ tag }) => tag)).toContain("SK-207");
    expect(of(logOf("SK-305"), "battery.rest").sisters).toEqual([]);
    expect(logOf("nobody")).toEqual([]);
  });
});

describe("a strip of the log", () => {
  test("has a mark for every figure, a hatch outside each limit, and says all of it", () => {
    const crank = of(logOf("SK-305"), "battery.crank");
    const markup = draw(crank);
    expect(markup.match(/<circle/g)).toHaveLength(crank.log.points.length);
    // A crank dip has a lower limit alone.
    expect(markup.match(/fill="url\(#s-out\)"/g)).toHaveLength(1);
    expect(draw(of(logOf("SK-305"), "battery.rest")).match(/fill="url\(#s-out\)"/g)).toHaveLength(2);
    expect(markup).toMatch(/aria-label="Crank dip: 1?\d \w+ 20\d\d 1\d\.\d+ V/);
    // What is warned of is drawn in copper.
    expect(markup).toContain('stroke="var(--copper)"');
    expect(draw(of(logOf("SK-305"), "battery.rest"))).not.toContain('stroke="var(--copper)"');
  });

  test("a repair that moved the figure parts the line and has a bar of its own", () => {
    const charging = logOf("SK-206").filter(({ log }) => log.step.test === "charge.volts");
    const parted = charging.find(({ log }) => log.repairs.length > 0) as LoggedTest;
    const markup = draw(parted);
    expect(markup.match(/stroke="var\(--plum\)"/g)).toHaveLength(parted.log.repairs.length);
    expect(markup.match(/<polyline/g)?.length).toBeGreaterThan(1);
  });

  test("figures and limits all lie within what is drawn, also where nothing ever moved", () => {
    for (const tag of ["SK-305", "SK-206", "SK-211"])
      for (const loggedTest of logOf(tag)) {
        const { bottom, top } = extentOf(loggedTest);
        expect(top).toBeGreaterThan(bottom);
        for (const { value } of loggedTest.log.points) expect(value > bottom && value < top).toBe(true);
        for (const limit of [loggedTest.log.low, loggedTest.log.high]) expect(limit === undefined || (limit >= bottom && limit <= top)).toBe(true);
      }
  });
});
