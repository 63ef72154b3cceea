import { afterEach, describe, expect, jest, test } from "@jest/globals";
import { askForAdvice } from "./advised";

const ADVISED = { state: "advised", advice: { status: "narrowed" }, weighed: ["r1"] };
const real = globalThis.fetch;

/** Answers what is fetched with these, one after the other; a missing answer is a line that is down. */
function answers(...bodies: (object | undefined)[]): string[] {
  const asked: string[] = [];
  globalThis.fetch = ((url: string) => {
    asked.push(url);
    const body = bodies[Math.min(asked.length, bodies.length) - 1];
    return body ? Promise.resolve(Response.json(body)) : Promise.reject(new TypeError("no line"));
  }) as typeof fetch;
  return asked;
}

afterEach(() => {
  globalThis.fetch = real;
  jest.useRealTimers();
});

describe("asking the server for a job's advice", () => {
  test("goes on while charts are drawn and while the line is down, and tells how far they are", async () => {
    jest.useFakeTimers();
    const asked = answers({ state: "drawing", done: 3, of: 12 }, undefined, ADVISED);
    const told: string[] = [];
    const said = askForAdvice(7, false, new AbortController().signal, (done, of) => told.push(`${done} of ${of}`));
    await jest.advanceTimersByTimeAsync(5000);
    expect(await said).toEqual(ADVISED);
    expect(told).toEqual(["3 of 12"]);
    expect(asked).toEqual(Array(3).fill("/jobs/7/advice"));
  });

  test("of a job as it was found is another question", async () => {
    const asked = answers(ADVISED);
    await askForAdvice(7, true, new AbortController().signal, () => undefined);
    expect(asked).toEqual(["/jobs/7/advice?found"]);
  });

  test("ends with the server's reason, or with nothing when nobody waits any more", async () => {
    answers({ state: "failed", why: "the circuit has no ground" });
    await expect(askForAdvice(7, false, new AbortController().signal, () => undefined)).rejects.toThrow("the circuit has no ground");
    const left = AbortSignal.abort();
    expect(await askForAdvice(7, false, left, () => undefined)).toBeUndefined();
  });
});
