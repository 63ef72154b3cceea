import { expect, test } from "@jest/globals";
import { swingAt, swingIn } from "./swing";

const WIDTH = 0.05;
const stretch = (volts: (seconds: number) => number): Float64Array => Float64Array.from({ length: 120 }, (_, k) => volts(k * WIDTH));

test("a slow swing is found, and goes on as it was", () => {
  const level = stretch((t) => 14.2 + 0.3 * Math.sin(2 * Math.PI * 0.8 * t + 1));
  const swing = swingIn(level, 20, 100, WIDTH, 1);
  expect(swing).toBeDefined();
  for (let k = 100; k < 120; k++) expect(Math.abs((level[k] as number) - 14.2 - swingAt(swing as NonNullable<typeof swing>, k))).toBeLessThan(0.08);
});

test.each<[string, (t: number) => number]>([
  ["a level", () => 14.2],
  ["noise", (t) => 14.2 + 0.2 * Math.sin(9871 * t * t)],
  ["a swing too small to see", (t) => 14.2 + 0.05 * Math.sin(5 * t)],
  ["a ramp", (t) => 13 + 0.2 * t],
])("there is none in %s", (_name, volts) => {
  expect(swingIn(stretch(volts), 0, 100, WIDTH, 1)).toBeUndefined();
});

test("on six volts half of it is one", () => {
  const level = stretch((t) => 7.1 + 0.06 * Math.sin(5 * t));
  expect(swingIn(level, 0, 100, WIDTH, 0.5)).toBeDefined();
  expect(swingIn(level, 0, 100, WIDTH, 1)).toBeUndefined();
});

test("a handful of bins tells none", () => {
  expect(
    swingIn(
      stretch((t) => Math.sin(5 * t)),
      0,
      7,
      WIDTH,
      1,
    ),
  ).toBeUndefined();
});
