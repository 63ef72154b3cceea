import { describe, expect, test } from "@jest/globals";
import { context, reading } from "../../tests/support/readings";
import { drainLadder } from "./drainLoop";
import { stepProblem } from "./entry";
import { judgeAll } from "./judge";
import { stepTitle } from "./step";

const around = context();
const fuses = around.sheet.fuses.map(({ id }) => id);
const ladder = (readings: Parameters<typeof judgeAll>[0]) => drainLadder(around.sheet, judgeAll(readings, around));
const base = (value: number) => reading("drain.current", value);
const unit = (value: number) => reading("drain.unitUnplugged", value);
const fuse = (at: string, value: number) => reading("drain.fusePulled", value, { at });

describe("the search for a drain", () => {
  test("begins with the unit, then goes fuse by fuse", () => {
    const { base: none, pulls, next, found, days } = ladder([]);
    expect([none, next, found, days]).toEqual([undefined, undefined, undefined, undefined]);
    expect(pulls.map(({ step }) => [step.test, step.at])).toEqual([["drain.unitUnplugged", undefined], ...fuses.map((id) => ["drain.fusePulled", id])]);
  });

  test("is over before it begins where the drain is within its limit", () => {
    expect(ladder([base(0.4)])).toMatchObject({ tooMuch: false, next: undefined, found: undefined });
  });

  test("says what each pull changed and how long the battery lasts, and goes on while it is too much", () => {
    const told = ladder([base(85), unit(84.6)]);
    expect(told).toMatchObject({ tooMuch: true, found: undefined, next: { step: { test: "drain.fusePulled", at: fuses[0] } } });
    expect(told.pulls[0]).toMatchObject({ fell: 0.4, under: false });
    expect(told.days).toBeGreaterThan(1);
    expect(told.days).toBeLessThan(10);
  });

  test("stops at the first pull that brings it within the limit, and looks behind it from connector to connector", () => {
    const [, second = ""] = fuses;
    const told = ladder([base(85), unit(85), fuse(fuses[0] ?? "", 85), fuse(second, 0.3)]);
    expect(told).toMatchObject({ next: undefined, found: { step: { at: second }, fell: 84.7, under: true } });
    const behind = ladder([base(85), fuse(second, 0.3), reading("drain.connectorParted", 0.3, { at: "clock" })]);
    expect(behind.pulls.at(-1)).toMatchObject({ what: "Connector clock", under: true });
  });

  test("a figure taken again takes the place of the first", () => {
    expect(ladder([base(85), unit(85), unit(0.2)]).pulls[0]).toMatchObject({ under: true });
  });
});

describe("a connector that no sheet names", () => {
  test.each(["clock", "heated grips", "Zündung 2", "J-4.b"])("may be called “%s”", (at) => {
    expect(stepProblem({ test: "drain.connectorParted", at }, around.sheet)).toBeUndefined();
    expect(stepTitle({ test: "drain.connectorParted", at })).toBe(`Drain, ${at} parted`);
  });

  test.each([undefined, "", " ", "-1", "a~b", "<b>", "a name of more than twenty letters"])("may not be called %p", (at) => {
    expect(stepProblem({ test: "drain.connectorParted", ...(at === undefined ? {} : { at }) }, around.sheet)).toEqual({
      field: "at",
      error: "drain.connectorParted needs a name: 1 to 20 letters, digits, spaces, dots or hyphens.",
    });
  });
});
