import { expect, test } from "@jest/globals";
import { inTime } from "./patience.server";

test("what is there in time is the answer, and what fails in time fails", async () => {
  expect(await inTime(Promise.resolve(3))).toBe(3);
  await expect(inTime(Promise.reject(new Error("broke")))).rejects.toThrow("broke");
});

test("what takes longer is no answer yet, and breaks nothing when it fails after all", async () => {
  let fail: (error: Error) => void = () => undefined;
  const work = new Promise<number>((_, reject) => {
    fail = reject;
  });
  const begun = performance.now();
  expect(await inTime(work)).toBeUndefined();
  expect(performance.now() - begun).toBeGreaterThan(4900);
  fail(new Error("too late"));
  await expect(work).rejects.toThrow("too late");
}, 20_000);
