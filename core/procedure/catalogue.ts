import type { Test } from "./test";
import { BATTERY } from "./tests/battery";
import { CHARGE } from "./tests/charge";
import { DRAIN } from "./tests/drain";
import { FIELD } from "./tests/field";
import { REGULATOR } from "./tests/regulator";
import { STATOR } from "./tests/stator";
import { WALK } from "./tests/walk";
import { WIRING } from "./tests/wiring";

export type { Loads } from "../machine/standing";
export type { Dial, GroupId, Test } from "./test";
export { GROUPS } from "./test";

/** The catalogue: every test a mechanic can take, one row each, in the order of the stages. */
export const CATALOGUE = [...WALK, ...BATTERY, ...CHARGE, ...STATOR, ...FIELD, ...REGULATOR, ...WIRING, ...DRAIN] as const;

export type TestId = (typeof CATALOGUE)[number]["id"];

const BY_ID = new Map<string, Test>(CATALOGUE.map((test) => [test.id, test]));

/** The test of that id; throws for an id that is not in the catalogue (the edges check with `isTestId`). */
export function testOf(id: TestId): Test {
  const test = BY_ID.get(id);
  if (!test) throw new Error(`no test ${id} in the catalogue`);
  return test;
}

/** True when the catalogue holds a test of that id. */
export function isTestId(id: string): id is TestId {
  return BY_ID.has(id);
}
