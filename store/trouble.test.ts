import { describe, expect, test } from "@jest/globals";
import { DatabaseProblem } from "./migrate";
import { explained, isBusy, isDamage, whyNotWritten } from "./trouble";

const coded = (code: string): Error => Object.assign(new Error("as SQLite says it"), { code });

describe("what is wrong with a database", () => {
  test.each([
    ["SQLITE_BUSY_SNAPSHOT", /locked by another program/, /Another program holds/],
    ["SQLITE_FULL", /is full/, /is full/],
    ["SQLITE_IOERR_SHMSIZE", /Is it full, or gone/, /can no longer be written/],
    ["SQLITE_IOERR_WRITE", /Is it full, or gone/, /can no longer be written/],
    ["SQLITE_READONLY_DBMOVED", /cannot be written/, /can no longer be written/],
    ["SQLITE_CORRUPT_VTAB", /not a sound Uvrel database/, /is damaged/],
  ])("%s is one sentence at start, and one while the program runs", (code, atStart, running) => {
    const told = explained(coded(code), "/data/uvrel.sqlite");
    expect(told).toBeInstanceOf(DatabaseProblem);
    expect((told as Error).message).toMatch(atStart);
    expect((told as Error).message).not.toContain("\n");
    expect(whyNotWritten(coded(code))).toMatch(running);
    expect(whyNotWritten(coded(code))).toMatch(/Nothing was changed/);
  });

  test("is told from what is wrong with the program", () => {
    const bug = new TypeError("x is not a function");
    expect(explained(bug, "/data/uvrel.sqlite")).toBe(bug);
    expect(whyNotWritten(bug)).toBeUndefined();
    expect(whyNotWritten(coded("SQLITE_CONSTRAINT_FOREIGNKEY"))).toBeUndefined();
    expect([isBusy(bug), isDamage(bug), isBusy(undefined), isDamage(null)]).toEqual([false, false, false, false]);
  });
});
