import { parseWithZod } from "@conform-to/zod/v4";
import { z } from "zod";
import { sheetSchema } from "../../core/machine/sheet";

/** Select boxes give text where the schema wants 6 or 12, and two empty fields are a group left out. */
const fromForm = z.preprocess((value) => tidy(value), sheetSchema);

function tidy(value: unknown): unknown {
  if (typeof value !== "object" || value === null) return value;
  const { systemVolts, loadAmps, changedAt: _changedAt, ...rest } = value as Record<string, unknown>;
  const loads = Object.values((loadAmps ?? {}) as object).some((amps) => amps !== undefined && amps !== "") ? { loadAmps } : {};
  return { ...rest, ...loads, systemVolts: systemVolts === undefined ? undefined : Number(systemVolts) };
}

/** Reads a posted sheet: a sheet, or what is wrong field by field with everything typed kept. */
export function readSheetForm(form: FormData) {
  const plain = new FormData();
  for (const [key, value] of form.entries()) plain.append(key, typeof value === "string" && /^\s*\d+,\d+\s*$/.test(value) ? value.replace(",", ".") : value);
  return parseWithZod(plain, { schema: fromForm });
}
