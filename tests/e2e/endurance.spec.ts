import { expect, test } from "@playwright/test";
import { tool } from "./workshop";

test.setTimeout(300_000);

/** The harnesses at their shortest: each says by its exit code whether everything held. Long runs stand in docs/benchmarks.md. */

test("a few hundred requests of every kind: none hangs, breaks, holds the server or writes what it refuses", () => {
  const { stdout, stderr, status } = tool("build/tools/fuzz.js", ["250", "11"]);
  expect([status, stdout, stderr]).toEqual([0, expect.stringContaining("| requests, seed 11 | 250 |"), ""]);
});

test("a server killed around every reading: none is lost, none is kept twice", () => {
  const { stdout, stderr, status } = tool("bench/kill.mjs", ["4", "11"]);
  expect([status, stdout, stderr]).toEqual([0, expect.stringContaining("| readings lost | 0 | 0 |"), ""]);
});
