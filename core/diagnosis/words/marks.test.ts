import { describe, expect, test } from "@jest/globals";
import type { FaultId } from "../../machine/faults";
import type { Advice } from "../advice";
import { wiringBreaks } from "./marks";

/** An advice that condemns the wiring, with its likeliest faults and the places of the first. */
function condemned(faults: Partial<Record<FaultId, number>>, places: readonly (readonly [string, number])[] = [], over: Partial<Advice> = {}): Advice {
  const listed = Object.entries(faults).map(([what, odds]) => ({ what: what as FaultId, odds }));
  const told = places.map(([what, odds]) => ({ what, odds }));
  return {
    status: "found",
    faults: listed,
    sure: [{ part: "wiring", odds: 0.95, fault: listed[0]?.what, places: told }],
    decision: { set: "wiring", odds: 0.95, loss: 0, bill: { money: 0, minutes: 0 } },
    ...over,
  } as unknown as Advice;
}

describe("where condemned wiring has failed", () => {
  test("is its fault, and its leg once one of them is known", () => {
    expect(
      wiringBreaks(
        condemned({ "wiring.leg-burnt": 0.93 }, [
          ["2", 0.9],
          ["1", 0.1],
        ]),
      ),
    ).toEqual([{ fault: "wiring.leg-burnt", at: "2" }]);
    expect(
      wiringBreaks(
        condemned({ "wiring.leg-burnt": 0.93 }, [
          ["2", 0.6],
          ["1", 0.4],
        ]),
      ),
    ).toEqual([{ fault: "wiring.leg-burnt", at: undefined }]);
    expect(wiringBreaks(condemned({ "wiring.ground-resistance": 0.9 }))).toEqual([{ fault: "wiring.ground-resistance", at: undefined }]);
  });

  test("is not said while it could have failed in several ways, is not sure, is not what is mended, or is contradicted", () => {
    expect(wiringBreaks(condemned({ "wiring.output-resistance": 0.6, "wiring.ground-resistance": 0.35 }))).toEqual([]);
    expect(wiringBreaks(condemned({ "wiring.fuse-open": 0.93 }, [], { sure: [] }))).toEqual([]);
    expect(wiringBreaks(condemned({ "wiring.fuse-open": 0.93 }, [], { status: "contradiction" }))).toEqual([]);
    const battery = { set: "battery", odds: 0.9, loss: 0, bill: { money: 0, minutes: 0 } };
    expect(wiringBreaks(condemned({ "wiring.fuse-open": 0.93 }, [], { decision: battery }))).toEqual([]);
  });
});
