import { existsSync, readdirSync, utimesSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { newFolder } from "../tests/support/store";
import { laidBy, layBy, takeUp } from "./incoming";

const BYTES = new TextEncoder().encode("tag,nickname\r\n");
const NOW = Date.UTC(2026, 5, 1);

describe("tables that wait to be kept", () => {
  test("are taken up by the name they were given, and then are gone", () => {
    const folder = newFolder();
    const name = layBy(folder, BYTES, NOW);
    expect(laidBy(folder, name)).toEqual(Buffer.from(BYTES));
    takeUp(folder, name);
    expect(laidBy(folder, name)).toBeUndefined();
    // Taken up once more, nothing happens.
    takeUp(folder, name);
  });

  test("go by no other path", () => {
    const folder = newFolder();
    layBy(folder, BYTES, NOW);
    for (const name of ["", "..", "../uvrel.sqlite", "x".repeat(36), `../incoming/${readdirSync(join(folder, "incoming"))[0]}`]) {
      expect(laidBy(folder, name)).toBeUndefined();
      takeUp(folder, name);
    }
    expect(readdirSync(join(folder, "incoming"))).toHaveLength(1);
  });

  test("wait a day, and are cleared away by the next", () => {
    const folder = newFolder();
    const old = layBy(folder, BYTES, Date.now());
    const file = join(folder, "incoming", old);
    utimesSync(file, new Date(Date.now() - 25 * 3_600_000), new Date(Date.now() - 25 * 3_600_000));
    const fresh = layBy(folder, BYTES, Date.now());
    expect(existsSync(file)).toBe(false);
    expect(laidBy(folder, fresh)).toBeDefined();
  });
});
