import type { Sheet } from "../../core/machine/sheet";

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

/** Every figure of a document by the path to it, in words and counted from one as on the page. */
function flat(value: unknown, path = "", into = new Map<string, string>()): Map<string, string> {
  if (typeof value !== "object" || value === null) return into.set(path, String(value));
  for (const [key, part] of Object.entries(value)) {
    const step = Array.isArray(value) ? String(Number(key) + 1) : key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
    if (part !== undefined) flat(part, path ? `${path} ${step}` : step, into);
  }
  return into;
}
