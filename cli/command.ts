import type { FieldProblem, Sheet } from "../core/machine/sheet";

/** Says on standard error what cannot be taken, a line a field, and ends with exit code 2. */
export type Refuse = (problems: readonly FieldProblem[]) => void;

/** A sheet by its id in the library, or by the path of a JSON file. */
export type FindSheet = (name: string) => { ok: true; sheet: Sheet } | { ok: false; problems: FieldProblem[] };

/** Where no sheet is named. */
export const SHEET_MISSING: FieldProblem = { field: "sheet", error: "is missing; give an id from the library or a .json file" };

/** Collects an option that may be given again. */
export const gathered = (value: string, before: string[]): string[] => [...before, value];
