import type { Chance } from "../diagnosis/chance";

/** As much of JSON Schema as our own schemas come out as. */
interface Schema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  minItems?: number;
  maxItems?: number;
  minimum?: number;
  maximum?: number;
  minLength?: number;
  maxLength?: number;
  format?: string;
}

/** What no schema of ours means: too large, of another kind, or meant to break something. */
export const NASTY: readonly unknown[] = [
  null,
  "",
  " ",
  "OL",
  "\u0000",
  "‮abc",
  "'; DROP TABLE readings; --",
  "<script>alert(1)</script>",
  "../../etc/passwd",
  "__proto__",
  "constructor",
  "12,4",
  "1e400",
  "NaN",
  "-0",
  -1,
  0.1 + 0.2,
  1e308,
  -1e308,
  2 ** 53,
  true,
  [],
  [null],
  {},
  { __proto__: null, a: 1 },
  "x".repeat(5000),
  "é".repeat(300),
  Array.from({ length: 300 }, () => 1),
];

/** A value that a schema allows, mostly; strings with a pattern are left to the mutations. */
export function sampleOf(schema: Schema, chance: Chance): unknown {
  if ("const" in schema) return schema.const;
  if (schema.enum) return chance.pick(schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return sampleOf(chance.pick(choices), chance);
  switch (schema.type) {
    case "object":
      return Object.fromEntries(
        Object.entries(schema.properties ?? {})
          .filter(([name]) => schema.required?.includes(name) || chance.yes(0.4))
          .map(([name, part]) => [name, sampleOf(part, chance)]),
      );
    case "array": {
      const most = Math.min(schema.maxItems ?? 4, 4);
      const count = Math.max(schema.minItems ?? 0, Math.floor(chance.between(0, most + 1)));
      return Array.from({ length: count }, () => sampleOf(schema.items ?? {}, chance));
    }
    case "number":
    case "integer": {
      const value = chance.between(Math.max(schema.minimum ?? 0, -1000), Math.min(schema.maximum ?? 100, 10_000));
      return schema.type === "integer" ? Math.round(value) : value;
    }
    case "boolean":
      return chance.yes(0.5);
    case "string":
      if (schema.format === "date-time") return new Date(Date.UTC(2026, 5, 1) + Math.floor(chance.between(0, 1e10))).toISOString();
      return Array.from({ length: Math.max(8, schema.minLength ?? 0) }, () => chance.pick([..."abcdefghij0123456789-"])).join("");
    default:
      return chance.pick(NASTY);
  }
}

/** The same document with something put where it does not belong, taken away, or added. */
export function spoilt(value: unknown, chance: Chance): unknown {
  if (typeof value !== "object" || value === null || chance.yes(0.2)) return chance.pick(NASTY);
  if (Array.isArray(value)) {
    if (value.length === 0) return [chance.pick(NASTY)];
    const at = Math.floor(chance.between(0, value.length));
    return value.map((part, k) => (k === at ? spoilt(part, chance) : part));
  }
  const names = Object.keys(value);
  if (names.length === 0 || chance.yes(0.15)) return { ...value, [chance.pick(["mood", "__proto__", "toString", ""])]: chance.pick(NASTY) };
  const name = chance.pick(names);
  const { [name]: part, ...rest } = value as Record<string, unknown>;
  return chance.yes(0.25) ? rest : { ...rest, [name]: spoilt(part, chance) };
}
