import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import type { Suggestion } from "../../core/diagnosis/planning/plan";
import { type Look, lookOf } from "../../core/diagnosis/population/look";
import { CAUTIONS } from "../../core/procedure/cautions";
import { type Reading, type Step, stepKey } from "../../core/procedure/step";
import { demoSheet } from "../../demo/sheets";
import { EntryForm } from "./EntryForm";
import { extrasOf } from "./extras";
import { type Preparation, preparationOf, stateIn, stateMark, stateToSay } from "./preparation";
import { SetUp } from "./SetUp";

const CRANK: Step = { test: "battery.crank" };
const PAIR: Step = { test: "stator.resistance", at: "1-2" };
const LOADED: Step = { test: "charge.volts", rpm: 5000, loads: "all" };
const AS_IT_CAME: Preparation = { charged: false, hot: false, secondMeter: false, first: [], cautions: [] };

function advised(step: Step, state: Partial<Look> = {}): Suggestion {
  const nothing = { minutes: 1, moves: [], hands: 0, clock: 0, stay: 0, gainBits: 0.1, gain: 1, pays: true, splits: undefined, turns: undefined };
  return { step, look: lookOf(step, state), ...nothing };
}

const read = (over: Partial<Reading>): Reading => ({ id: "r", test: "battery.rest", value: 12.6, ...over });

describe("what an advised reading asks of the machine first", () => {
  test("is nothing for a reading as the machine came in, or for a step that nobody advised", () => {
    expect(preparationOf(stepKey(CRANK), undefined, [advised(CRANK)], [])).toEqual(AS_IT_CAME);
    expect(preparationOf(stepKey(PAIR), undefined, [advised(CRANK, { charged: true })], [])).toEqual(AS_IT_CAME);
    expect(preparationOf(stepKey(PAIR), undefined, [], [])).toEqual(AS_IT_CAME);
  });

  test("is a full charge, with the cautions of charging", () => {
    const prepared = preparationOf(stepKey(CRANK), undefined, [advised(CRANK, { charged: true })], [read({})]);
    expect(prepared).toMatchObject({ charged: true, hot: false, first: [expect.stringContaining("Charge the battery fully")] });
    expect(prepared.cautions).toEqual(["hydrogen", "no-sparks"]);
  });

  test("is no second charge: what was charged stays ticked and asks for nothing", () => {
    const kept = [read({ charged: true })];
    expect(preparationOf(stepKey(CRANK), undefined, [advised(CRANK, { charged: true })], kept)).toEqual({ ...AS_IT_CAME, charged: true });
    expect(preparationOf(stepKey(LOADED), undefined, [], kept)).toEqual({ ...AS_IT_CAME, charged: true });
  });

  test("is heat, each time anew, with the cautions of a running engine", () => {
    const prepared = preparationOf(stepKey(PAIR), undefined, [advised(PAIR, { hot: true })], [read({ ...PAIR, hot: true })]);
    expect(prepared).toMatchObject({ charged: false, hot: true, first: ["Run the engine until everything is hot."] });
    expect(prepared.cautions).toEqual(["exhaust", "moving-parts", "hot-engine"]);
    for (const id of prepared.cautions) expect(CAUTIONS[id]).toBeDefined();
  });

  test("is the second meter, where it is wanted on that", () => {
    const again: Suggestion = { ...advised(LOADED), due: "second-meter" };
    expect(preparationOf(stepKey(LOADED), undefined, [again], [])).toMatchObject({ secondMeter: true, first: [expect.stringContaining("second meter")] });
    expect(preparationOf(stepKey(CRANK), undefined, [again], []).secondMeter).toBe(false);
  });

  test("goes by the better of two readings of one step", () => {
    const both = [advised(CRANK, { charged: true }), advised(CRANK)];
    expect(preparationOf(stepKey(CRANK), undefined, both, []).charged).toBe(true);
    expect(preparationOf(stepKey(CRANK), undefined, both.toReversed(), []).charged).toBe(false);
  });

  test("is what was come for, whatever stands first in the plan, and where nothing is gone by but the list", () => {
    const [cold, hot] = [advised(PAIR), advised(PAIR, { hot: true })];
    const preparedBy = (suggestion: Suggestion, shown: Suggestion[]): Preparation =>
      preparationOf(stepKey(PAIR), stateToSay(suggestion, [hot, cold]), shown, []);
    expect(preparedBy(cold, [hot, cold])).toEqual(AS_IT_CAME);
    expect(preparedBy(hot, [cold, hot]).hot).toBe(true);
    expect(preparedBy(hot, []).first).toEqual(["Run the engine until everything is hot."]);
  });
});

test("an address names the state only where the step leaves it open, and is read back; what is no state says nothing", () => {
  const [cold, hot, charged] = [advised(PAIR), advised(PAIR, { hot: true }), advised(CRANK, { charged: true })];
  expect(stateToSay(cold, [cold, charged])).toBeUndefined();
  for (const suggestion of [cold, hot, charged]) {
    const said = stateToSay(suggestion, [cold, hot, charged]);
    const { hot: heated, charged: full } = suggestion.look;
    expect(said && stateIn(stateMark(said))).toEqual({ hot: heated, charged: full });
  }
  for (const mark of [null, "", "lukewarm"]) expect(stateIn(mark)).toBeUndefined();
});

describe("on the bench", () => {
  const form = (step: Step, preparation: Preparation, twoMeters = false): string => {
    const nothing = (): void => undefined;
    const prepared = {
      text: "",
      setText: nothing,
      replaces: false,
      narrow: false,
      folded: false,
      restHours: 4,
      loadAmps: 100,
      twoMeters,
      refusal: undefined,
      inputRef: { current: null },
    };
    const element = <EntryForm {...prepared} {...{ step, preparation }} onKeep={nothing} onSkip={nothing} onSmallPrint={nothing} />;
    return renderToStaticMarkup(<RouterProvider router={createMemoryRouter([{ path: "*", element }])} />);
  };
  const box = (html: string, name: string): string | undefined =>
    html.match(/<input[^>]*type="checkbox"[^>]*>/g)?.find((input) => input.includes(`name="${name}"`));

  test("its boxes are ticked beforehand, and only those", () => {
    expect(box(form(CRANK, { ...AS_IT_CAME, charged: true }), "charged")).toContain("checked");
    expect(box(form(CRANK, AS_IT_CAME), "charged")).not.toContain("checked");
    expect(box(form(PAIR, { ...AS_IT_CAME, hot: true }), "hot")).toContain("checked");
    expect(box(form(PAIR, { ...AS_IT_CAME, charged: true }), "charged")).toBeUndefined();
  });

  test("what is read on probes can be of the second meter, where the shop has one", () => {
    expect(box(form(CRANK, AS_IT_CAME), "secondMeter")).toBeUndefined();
    expect(box(form(CRANK, AS_IT_CAME, true), "secondMeter")).not.toContain("checked");
    expect(box(form(CRANK, { ...AS_IT_CAME, secondMeter: true }, true), "secondMeter")).toContain("checked");
    expect(box(form({ test: "drain.current" }, AS_IT_CAME, true), "secondMeter")).toBeUndefined();
    expect(box(form({ test: "inspect.connector" }, AS_IT_CAME, true), "secondMeter")).toBeUndefined();
  });

  test("charging volts can be read of a charged battery too", () => {
    const html = form(LOADED, { ...AS_IT_CAME, charged: true });
    expect(box(html, "charged")).toContain("checked");
    expect(box(html, "hot")).not.toContain("checked");
  });

  test("what has to be done stands before engine, dial and probes", () => {
    const sheet = demoSheet("corvane-ferrel-650");
    if (!sheet) throw new Error("no sheet");
    const words = (first: string[]): string =>
      renderToStaticMarkup(<SetUp step={CRANK} sheet={sheet} swapped={false} first={first} />).replace(/<[^>]+>/g, " ");
    expect(words(["Charge the battery fully, then let it rest."])).toMatch(/First\s+Charge the battery fully, then let it rest\.\s+Engine/);
    expect(words([])).toMatch(/^\s*Engine/);
  });
});

test("what the probe touched is read back from the small print, and nothing else is", () => {
  const form = (touched?: string): FormData => {
    const data = new FormData();
    if (touched !== undefined) data.set("touched", touched);
    return data;
  };
  expect(extrasOf(form("post"), CRANK)).toEqual({ touched: "post" });
  expect(extrasOf(form("elsewhere"), CRANK)).toEqual({});
  expect(extrasOf(form(), CRANK)).toEqual({});
});

test("the load of a tester and the standard it speaks are small print; a load that none has is refused by name", () => {
  const form = (fields: Record<string, string>): FormData => {
    const data = new FormData();
    for (const [name, value] of Object.entries(fields)) data.set(name, value);
    return data;
  };
  expect(extrasOf(form({ amps: "75" }), { test: "battery.load" })).toEqual({ amps: 75 });
  expect(extrasOf(form({ amps: "a lot" }), { test: "battery.load" })).toMatch(/^The load must be a number of amps from 1 to 2,000\.$/);
  expect(extrasOf(form({ amps: "0" }), { test: "battery.load" })).toMatch(/^The load must be/);
  expect(extrasOf(form({ rating: "din" }), { test: "battery.crankingAmps" })).toEqual({ rating: "din" });
  expect(extrasOf(form({ rating: "sae" }), { test: "battery.crankingAmps" })).toEqual({});
});
