import { parseWithZod } from "@conform-to/zod/v4";
import { z } from "zod";
import { sheetSchema } from "../../core/machine/sheet";
import { refusal } from "../forms.server";

/** Select boxes give text where the schema wants 6 or 12, and two empty fields are a group left out. */
const fromForm = z.preprocess((value) => tidy(value), sheetSchema);

function tidy(value: unknown): unknown {
  if (typeof value !== "object" || value === null) return value;
  const { systemVolts, loadAmps, wakes, changedAt: _changedAt, ...rest } = value as Record<string, unknown>;
  const groups = Object.entries({ loadAmps, wakes }).filter(([, group]) =>
    Object.values((group ?? {}) as object).some((figure) => figure !== undefined && figure !== ""),
  );
  return { ...rest, ...Object.fromEntries(groups), systemVolts: systemVolts === undefined ? undefined : Number(systemVolts) };
}

const LISTS = ["legs", "bands", "fuses", "access"] as const;
const GROUPS = ["statorConnector", "outputWire", "groundWire", "battery", "loadAmps", "wakes"];

/** The field in which the form library sends what it wants beside being kept. */
const INTENT = "__intent__";
/** What the form itself asks for: a line more or less in one of its lists, or to look a field through while it is typed. */
const intentSchema = z.discriminatedUnion("type", [
  z.object({ type: z.enum(["insert", "remove"]), payload: z.object({ name: z.enum(LISTS), index: z.number().int().min(0).max(99).optional() }) }),
  z.object({ type: z.literal("validate"), payload: z.object({ name: z.string().regex(/^[\w.[\]]{0,60}$/) }) }),
]);

/**
 * Reads a posted sheet: a sheet, or what is wrong field by field with everything typed kept.
 * @throws a Response (400) for what the form never asks for
 */
export function readSheetForm(form: FormData) {
  const intent = form.get(INTENT);
  if (intent !== null && !isIntent(intent)) throw refusal(400, "That is nothing that can be done with a sheet. Nothing was changed.");
  const plain = new FormData();
  for (const [key, value] of form.entries()) {
    if (!isShaped(key)) continue;
    plain.append(key, typeof value === "string" && /^\s*\d+,\d+\s*$/.test(value) ? value.replace(",", ".") : value);
  }
  return parseWithZod(plain, { schema: fromForm });
}

function isIntent(value: FormDataEntryValue): boolean {
  try {
    return intentSchema.safeParse(JSON.parse(String(value))).success;
  } catch {
    return false;
  }
}

/** False for a name that gives a list or a group one plain value: no form of ours does, and no page could show it again. */
function isShaped(name: string): boolean {
  const [first = "", ...rest] = name.split(/[.[\]]+/).filter(Boolean);
  if (LISTS.some((list) => list === first)) return rest.length >= 2 && /^\w+\[\d+\]\./.test(name) && (rest[1] !== "wire" || rest.length > 2);
  return !GROUPS.includes(first) || rest.length > 0;
}
