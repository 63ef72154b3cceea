import type { Sheet } from "../../core/machine/sheet";
import { isTestId, type TestId, testOf } from "../../core/procedure/catalogue";
import { testTitle } from "../../core/procedure/step";

/** A figure in which two versions of a sheet differ, each as it would be typed. */
export interface Difference {
  field: string;
  stands: string;
  typed: string;
}

/** Where a typed sheet differs from the one that stands on the shelf, field by field. */
export function differencesOf(stands: Sheet, typed: Sheet): Difference[] {
  const [before, after] = [flat(stands), flat(typed)];
  return [...new Set([...before.keys(), ...after.keys()])]
    .filter((field) => before.get(field) !== after.get(field))
    .map((field) => ({ field, stands: before.get(field) ?? "nothing", typed: after.get(field) ?? "nothing" }));
}

/** Every figure of a document by the path to it, in words; lines of a list go by what they are of, so that two lists are compared line by line. */
function flat(value: unknown, path = "", into = new Map<string, string>()): Map<string, string> {
  if (typeof value !== "object" || value === null) return into.set(path, String(value));
  const lines = Array.isArray(value) ? value.map((line, k): [string, unknown] => named(line) ?? [String(k + 1), line]) : Object.entries(value);
  for (const [key, part] of lines) {
    const step = Array.isArray(value) ? key : key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
    if (part !== undefined) flat(part, path ? `${path} ${step}` : step, into);
  }
  return into;
}

/** A line of a list by what it is of — a band's test with its point, speed and loads, a way in's place, a leg's or a fuse's own name — and the rest of it. */
function named(line: unknown): [string, unknown] | undefined {
  if (typeof line !== "object" || line === null) return undefined;
  const { test, place, id, ...rest } = line as Partial<Record<string, string | number>>;
  if (test === undefined) return place === undefined && id === undefined ? undefined : [String(place ?? id), rest];
  const { at, rpm, loads, ...limits } = rest;
  const known = isTestId(String(test)) ? testTitle(testOf(String(test) as TestId)) : String(test);
  return [[known, at, rpm === undefined ? undefined : `${rpm} rpm`, loads].filter((part) => part !== undefined).join(" "), limits];
}
