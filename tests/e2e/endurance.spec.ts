import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import Database from "better-sqlite3";
import { chartSheetsOf } from "../../core/diagnosis/population/builds";
import { unlistedSheet } from "../../core/machine/unlisted";
import { atlasKey } from "../../store/atlases";
import { serve, tool } from "./workshop";

/** The harnesses at their shortest: each says by its exit code whether everything held. Long runs stand in docs/benchmarks.md. */

test("a few hundred requests of every kind: none hangs, breaks, holds the server or writes what it refuses", () => {
  const { stdout, stderr, status } = tool("build/tools/fuzz.js", ["250", "11"]);
  expect([status, stdout, stderr]).toEqual([0, expect.stringContaining("| requests, seed 11 | 250 |"), ""]);
});

test("a server killed around every reading: none is lost, none is kept twice", () => {
  const { stdout, stderr, status } = tool("bench/kill.mjs", ["4", "11"]);
  expect([status, stdout, stderr]).toEqual([0, expect.stringContaining("| readings lost | 0 | 0 |"), ""]);
});

test("a server that nobody uses draws what the first machine without a sheet will need, answers meanwhile, and stops in the middle of it", async () => {
  const data = mkdtempSync(join(tmpdir(), "uvrel-quiet-"));
  const { child, url, says, code } = await serve({ UVREL_DATA: data, PORT: "0" });
  const first = chartSheetsOf(unlistedSheet("three-phase", 12)).map(atlasKey);
  const drawn = (): number => {
    const db = new Database(join(data, "uvrel.sqlite"), { readonly: true });
    const count = first.filter((key) => db.prepare("SELECT 1 FROM atlases WHERE key = ?").get(key)).length;
    db.close();
    return count;
  };
  expect(drawn()).toBe(0);
  await expect.poll(drawn, { timeout: 240_000, intervals: [1000] }).toBe(first.length);
  // The advice that follows is in nobody's way.
  expect((await fetch(url)).status).toBe(200);
  child.kill("SIGTERM");
  expect(await code).toBe(0);
  expect(says()).not.toContain("Error");
});
