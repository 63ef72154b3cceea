import { describe, expect, test } from "@jest/globals";
import { readRaw, weigh } from "./ngspice";

describe("a simulator's raw file", () => {
  test("is read by its own head: names, and one array each", () => {
    const head = ["Title: t", "Flags: real", "No. Variables: 2", "No. Points: 3", "Variables:", "\t0\ttime\ttime", "\t1\tv(a)\tvoltage", "Binary:", ""].join(
      "\n",
    );
    const body = Buffer.from(new Float64Array([0, 5, 1, 6, 2, 7]).buffer);
    const vectors = readRaw(Buffer.concat([Buffer.from(head), body]));
    expect([...(vectors.get("time") ?? [])]).toEqual([0, 1, 2]);
    expect([...(vectors.get("v(a)") ?? [])]).toEqual([5, 6, 7]);
  });
});

describe("weighing a vector over uneven times", () => {
  test("counts every stretch by its width", () => {
    const { mean, rms, deviation } = weigh(new Float64Array([0, 1, 1.000001, 4]), new Float64Array([2, 2, 6, 6]));
    expect(mean).toBeCloseTo(5, 4);
    expect(rms).toBeCloseTo(Math.sqrt(28), 4);
    expect(deviation).toBeCloseTo(Math.sqrt(3), 4);
  });

  test("a steady vector has no deviation", () => {
    expect(weigh(new Float64Array([0, 0.5, 3]), new Float64Array([4, 4, 4]))).toEqual({ mean: 4, rms: 4, deviation: 0 });
  });
});
