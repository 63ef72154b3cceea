import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { locateGroundTouch, touchWords } from "./groundtouch";

/**
 * A slow, obvious meter: ohms between two nodes of a resistor list, by injecting one ampere and solving the node equations
 * by elimination. Shares nothing with the formulas under test.
 */
function ohmsBetween(resistors: [string, string, number][], from: string, to: string): number {
  const nodes = [...new Set(resistors.flat().filter((name): name is string => typeof name === "string"))].filter((node) => node !== to);
  const rows = nodes.map((node) => {
    const row = nodes.map(() => 0);
    for (const [a, b, ohms] of resistors) {
      if (a !== node && b !== node) continue;
      const other = nodes.indexOf(a === node ? b : a);
      row[nodes.indexOf(node)] = (row[nodes.indexOf(node)] ?? 0) + 1 / ohms;
      if (other >= 0) row[other] = (row[other] ?? 0) - 1 / ohms;
    }
    return [...row, node === from ? 1 : 0];
  });
  const at = (row: number[] | undefined, i: number): number => row?.[i] ?? 0;
  for (let i = 0; i < nodes.length; i++) {
    for (let k = 0; k < nodes.length; k++) {
      if (k === i) continue;
      const factor = at(rows[k], i) / at(rows[i], i);
      rows[k] = (rows[k] ?? []).map((value, column) => value - factor * at(rows[i], column));
    }
  }
  const place = nodes.indexOf(from);
  return at(rows[place], nodes.length) / at(rows[place], place);
}

const LEGS = ["a", "b", "c"] as const;

/** The six readings of a grounded winding: `k` is the winding, `x` how far in from its terminal, `lead` the meter's leads. */
function readings(winding: "wye" | "delta", ohms: number, k: number, x: number, contact: number, lead: number) {
  const ends = (i: number): [string, string] => (winding === "wye" ? [LEGS[i] as string, "n"] : [LEGS[i] as string, LEGS[(i + 1) % 3] as string]);
  const resistors: [string, string, number][] = [["touch", "case", contact]];
  for (let i = 0; i < 3; i++) {
    const [from, to] = ends(i);
    if (i === k) resistors.push([from, "touch", ohms * x], ["touch", to, ohms * (1 - x)]);
    else resistors.push([from, to, ohms]);
  }
  const read = (from: string, to: string) => ohmsBetween(resistors, from, to) + lead;
  return { ab: read("a", "b"), bc: read("b", "c"), ca: read("c", "a"), a: read("a", "case"), b: read("b", "case"), c: read("c", "case") };
}

/** Takes the lead zero off the pairs, as judging does; legs to case may keep it, since it cancels. */
const zeroed = (ohms: ReturnType<typeof readings>, lead: number) => ({ ...ohms, ab: ohms.ab - lead, bc: ohms.bc - lead, ca: ohms.ca - lead });

describe("where a winding touches the case", () => {
  test("wye: found along any winding, whatever the contact and the leads", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 }),
        fc.double({ min: 0.08, max: 0.85, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (k, x, contact) => {
          const lead = 0.2;
          const touch = locateGroundTouch("wye", ["1", "2", "3"], zeroed(readings("wye", 0.4, k, x, contact + 1e-6, lead), lead), 0.001);
          expect(touch.winding).toBe(String(k + 1));
          expect(touch.fraction).toBeCloseTo(x, 2);
        },
      ),
      { numRuns: 200 },
    );
  });

  test("delta: found between the two lowest legs", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 }), fc.double({ min: 0.2, max: 0.8, noNaN: true }), (k, x) => {
        const touch = locateGroundTouch("delta", ["1", "2", "3"], zeroed(readings("delta", 0.6, k, x, 0.5, 0.1), 0.1), 0.001);
        expect(touch.winding).toBe(`${k + 1}-${((k + 1) % 3) + 1}`);
        expect(touch.fraction).toBeCloseTo(x, 2);
      }),
      { numRuns: 200 },
    );
  });

  test("wye: all legs alike is the neutral or the lead", () => {
    const touch = locateGroundTouch("wye", ["1", "2", "3"], { ab: 0.4, bc: 0.4, ca: 0.4, a: 0.9, b: 0.9, c: 0.9 }, 0.01);
    expect(touch.winding).toBe("neutral");
    expect(touchWords(touch)).toMatch(/neutral or in the lead/);
  });

  test("a coarse meter names the leg only: 0.1 Ω on 0.2 Ω windings is a quarter either way", () => {
    const touch = locateGroundTouch("wye", ["1", "2", "3"], { ab: 0.4, bc: 0.4, ca: 0.4, a: 0.1, b: 0.3, c: 0.3 }, 0.1);
    expect(touch.uncertainty).toBeCloseTo(0.25, 9);
    expect(touchWords(touch)).toBe("leg 1; the meter's last digit is too coarse to say how far in");
  });

  test.each([
    [0.05, "leg 2, right at the terminal, counted from the lead"],
    [0.25, "leg 2, about a quarter in from the lead"],
    [0.33, "leg 2, about a third in from the lead"],
    [0.5, "leg 2, about half way in from the lead"],
    [0.66, "leg 2, about two thirds in from the lead"],
    [0.9, "leg 2, near the far end, counted from the lead"],
  ])("%s is said as “%s”", (fraction, words) => {
    expect(touchWords({ winding: "2", fraction, uncertainty: 0.02 })).toBe(words);
  });

  test("a delta's place is counted from a leg", () => {
    expect(touchWords({ winding: "2-3", fraction: 0.5, uncertainty: 0.02 })).toBe("winding 2-3, about half way in from leg 2");
  });
});
