import { type ParseError, parse as parseTolerant } from "jsonc-parser";
import { z } from "zod";
import { RATING_IDS } from "../core/battery/ratings";
import { FAMILY_IDS } from "../core/machine/families/registry";
import { KIND_IDS } from "../core/machine/kind";
import { LOOSE_IDS, looseProblem } from "../core/machine/loose";
import { PARTS } from "../core/machine/part";
import { type FieldProblem, parseSheet, problemsOf, type Sheet, sheetSchema } from "../core/machine/sheet";
import { completed, unlistedSheet } from "../core/machine/unlisted";
import { ASSUMED_METER, type Meter } from "../core/meter/meter";
import { isTestId, type TestId, testOf } from "../core/procedure/catalogue";
import { checkValue, notTaken, stepProblem } from "../core/procedure/entry";
import { type Reading, type Step, TOUCHED } from "../core/procedure/step";
import { TOOL_IDS, type ToolId, USUAL_TOOLS } from "../core/procedure/tools";
import { beyondBounds } from "./bounds";

/** The case file: one diagnosis as an open JSON document. Its field names are a contract; fields may be added. */

const stepSchema = z.strictObject({
  test: z.string(),
  at: z.string().optional(),
  rpm: z
    .union([z.literal("idle"), z.number().min(100, "must be 100 rpm or more").max(20_000, "must be 20,000 rpm or less")], {
      error: 'must be a number of rpm or "idle"',
    })
    .optional(),
  loads: z.enum(["off", "normal", "all"], { error: "must be off, normal or all" }).optional(),
});

const readingSchema = stepSchema.extend({
  value: z.union([z.number(), z.string()], { error: 'must be a number, "OL" or a word from the test\'s list' }),
  restHours: z.number().min(0, "must be 0 or more").max(10_000, "must be 10,000 hours or less").optional(),
  amps: z.number().min(0, "must be 0 or more").max(2000, "must be 2,000 A or less").optional(),
  /** How far the figure swung over some ten seconds, highest minus lowest, in its own unit. */
  swing: z.number().min(0, "must be 0 or more").max(100, "must be 100 or less").optional(),
  /** The standard of a tester's cranking amps. */
  rating: z.enum(RATING_IDS, { error: `must be one of ${RATING_IDS.join(", ")}` }).optional(),
  /** What probe or clamp touched at the battery, where it was not the usual one of the test. */
  touched: z.enum(TOUCHED, { error: `must be ${TOUCHED.join(" or ")}` }).optional(),
  raw: z.boolean().optional(),
  /** The lead zero at the time of this reading, where it differs from the meter's. */
  leadOhms: z.number().min(0, "must be 0 or more").max(10, "must be 10 Ω or less").optional(),
  /** Last digit on ohms of the meter it was read on, where that is not the case's meter. */
  ohmsResolution: z.number().min(0.0001, "must be 0.0001 Ω or more").max(10, "must be 10 Ω or less").optional(),
  /** Read on another meter than the case's: what that one has off says nothing of it. */
  secondMeter: z.boolean().optional(),
  hot: z.boolean().optional(),
  /** The battery had been charged fully since the machine came in. */
  charged: z.boolean().optional(),
  note: z.string().max(500, "may hold 500 characters at most").optional(),
  takenAt: z.string().max(40).optional(),
  afterRepair: z.boolean().optional(),
  /** The parts that had been mended by then; without it a reading after a repair is kept and judged, but no odds are drawn from it. */
  mended: z
    .array(z.enum(PARTS, { error: `must be one of ${PARTS.join(", ")}` }))
    .max(PARTS.length)
    .optional(),
});

const meterSchema = z.strictObject({
  name: z.string().max(60).optional(),
  leadOhms: z.number().min(0, "must be 0 Ω or more").max(10, "must be 10 Ω or less").optional(),
  ohmsResolution: z.number().min(0.0001, "must be 0.0001 Ω or more").max(10, "must be 10 Ω or less").optional(),
  trueRms: z.boolean().optional(),
  diodeMaxVolts: z.number().min(1, "must be 1 V or more").max(20, "must be 20 V or less").optional(),
});

const caseSchema = z.strictObject({
  uvrelCase: z.literal(1, { error: "must be 1" }),
  machine: z.union(
    [
      z.strictObject({ sheet: z.string() }),
      z.strictObject({ inline: z.unknown() }),
      z.strictObject({
        family: z.string(),
        systemVolts: z.union([z.literal(6), z.literal(12)]).optional(),
        kind: z.enum(KIND_IDS, { error: `must be one of ${KIND_IDS.join(", ")}` }).optional(),
      }),
    ],
    { error: "must hold one of sheet, inline or family (with systemVolts 6 or 12, and the kind of machine where it is known)" },
  ),
  /** What of the machine was brought in, where it is not the whole. */
  loose: z.enum(LOOSE_IDS, { error: `must be one of ${LOOSE_IDS.join(", ")}` }).optional(),
  ambientC: z.number().min(-50, "must be -50 °C or more").max(60, "must be 60 °C or less").optional(),
  complaint: z.array(z.string().max(60)).max(30).optional(),
  words: z.string().max(2000).optional(),
  batteryAgeYears: z.number().min(0, "must be 0 or more").max(50, "must be 50 or less").optional(),
  meter: meterSchema.optional(),
  /** What the shop has beside a multimeter: nothing else is asked for. */
  tools: z
    .array(z.enum(TOOL_IDS, { error: `must be one of ${TOOL_IDS.join(", ")}` }))
    .max(TOOL_IDS.length, `may hold ${TOOL_IDS.length} tools at most`)
    .optional(),
  school: z.string().max(300).optional(),
  readings: z.array(readingSchema).max(2000, "may hold 2,000 readings at most"),
});

/** The case file's JSON Schema, for those who write such files with other tools: of a sheet that travels inside nothing has to be there but the family. */
export function caseJsonSchema(): Record<string, unknown> {
  const [bySheet, , byFamily] = caseSchema.shape.machine.options;
  const { battery, statorConnector } = sheetSchema.shape;
  const part = z
    .strictObject(sheetSchema.shape)
    .extend({ battery: battery.partial(), statorConnector: statorConnector.partial() })
    .partial()
    .required({ family: true });
  const published = caseSchema.extend({ machine: z.union([bySheet, z.strictObject({ inline: part }), byFamily]) });
  return { title: "Uvrel case file", ...z.toJSONSchema(published, { io: "input" }) };
}

/** A case read and checked: the machine's sheet found, every reading a step of that machine. */
export interface Case {
  sheet: Sheet;
  ambientC: number;
  complaint: string[];
  words: string;
  batteryAgeYears: number | null;
  meter: Meter;
  tools: readonly ToolId[];
  school: string | undefined;
  readings: Reading[];
}

type CaseRead = { ok: true; case: Case } | { ok: false; problems: FieldProblem[] };

/** Room temperature, assumed where a case says nothing. */
const ASSUMED_AMBIENT_C = 20;

/**
 * Reads a case from JSON text. Broken JSON is named by its line, a wrong field by its path.
 * @param findSheet looks a sheet up in the library
 */
export function readCase(text: string, findSheet: (id: string) => Sheet | undefined): CaseRead {
  const beyond = beyondBounds(text);
  if (beyond) return { ok: false, problems: [{ field: "file", error: beyond }] };
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return { ok: false, problems: [{ field: brokenAt(text), error: "is not JSON" }] };
  }
  const parsed = caseSchema.safeParse(data, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const found = machineOf(parsed.data.machine, findSheet);
  if (!("sheet" in found)) return { ok: false, problems: found.problems };
  const { loose } = parsed.data;
  const unbuilt = loose && looseProblem(loose, found.sheet);
  if (unbuilt) return { ok: false, problems: [{ field: "loose", error: unbuilt }] };
  const machine = loose ? { sheet: { ...found.sheet, loose } } : found;
  const problems: FieldProblem[] = [];
  const readings = parsed.data.readings.map(withoutNeedlessPlace).flatMap((reading, i): Reading[] => {
    const problem = readingProblem(reading, machine.sheet);
    if (problem) {
      problems.push({ field: `readings.${i}.${problem.field}`, error: problem.error });
      return [];
    }
    return [{ ...dropUndefined(reading), test: reading.test as TestId, id: String(i) } as Reading];
  });
  if (problems.length > 0) return { ok: false, problems };
  const { ambientC, complaint, words, batteryAgeYears, meter, tools, school } = parsed.data;
  return {
    ok: true,
    case: {
      sheet: machine.sheet,
      ambientC: ambientC ?? ASSUMED_AMBIENT_C,
      complaint: complaint ?? [],
      words: words ?? "",
      batteryAgeYears: batteryAgeYears ?? null,
      meter: { ...ASSUMED_METER, ...dropUndefined(meter ?? {}) },
      tools: tools ?? USUAL_TOOLS,
      school,
      readings,
    },
  };
}

/** Reads one reading by itself, as a dialogue gives it. */
export function readReading(data: unknown, sheet: Sheet, id: string): { ok: true; reading: Reading } | { ok: false; problems: FieldProblem[] } {
  const read = readOne("reading", readingSchema, data, sheet);
  return read.ok ? { ok: true, reading: { ...read.parsed, id } as Reading } : read;
}

/** Reads one step by itself, as a dialogue declines it. */
export function readStep(data: unknown, sheet: Sheet): { ok: true; step: Step } | { ok: false; problems: FieldProblem[] } {
  const read = readOne("skip", stepSchema, data, sheet);
  return read.ok ? { ok: true, step: read.parsed as Step } : read;
}

/** @param name of the message's field, before the field names of its problems */
function readOne<T extends z.infer<typeof stepSchema>>(
  name: string,
  schema: z.ZodType<T>,
  data: unknown,
  sheet: Sheet,
): { ok: true; parsed: object } | { ok: false; problems: FieldProblem[] } {
  const parsed = schema.safeParse(data, { reportInput: true });
  const step = parsed.success ? withoutNeedlessPlace(parsed.data) : undefined;
  const problem = step && readingProblem(step, sheet);
  const problems = parsed.success ? (problem ? [problem] : []) : problemsOf(parsed.error);
  if (!step || problems.length > 0) return { ok: false, problems: problems.map(({ field, error }) => ({ field: `${name}.${field}`, error })) };
  return { ok: true, parsed: dropUndefined(step) };
}

function machineOf(
  machine: z.infer<typeof caseSchema>["machine"],
  findSheet: (id: string) => Sheet | undefined,
): { sheet: Sheet } | { problems: FieldProblem[] } {
  if ("sheet" in machine) {
    const sheet = findSheet(machine.sheet);
    return sheet
      ? { sheet }
      : {
          problems: [{ field: "machine.sheet", error: `“${machine.sheet}” is not in the library; put what you have of its sheet under machine.inline` }],
        };
  }
  if ("inline" in machine) {
    const whole = parseSheet(machine.inline);
    // A sheet of which fields are missing is part of one; all others are told what is wrong with them as they stand.
    const parsed = whole.ok ? whole : parseSheet(completed(machine.inline));
    if (parsed.ok) return { sheet: parsed.sheet };
    return { problems: parsed.problems.map((problem) => ({ ...problem, field: `machine.inline.${problem.field}` })) };
  }
  const family = FAMILY_IDS.find((id) => id === machine.family);
  if (!family)
    return {
      problems: [{ field: "machine.family", error: `“${machine.family}” is not a family this edition knows (${FAMILY_IDS.join(", ")})` }],
    };
  return { sheet: unlistedSheet(family, machine.systemVolts ?? 12, machine.kind) };
}

/** A point's last name as people say it: the wire of a lead, G for clean engine metal. */
const spoken = (point: string | undefined): string => (point === "engine" ? "G" : (point?.split(":").at(-1) ?? ""));

/** A test that is read at one place alone names none; who names its wires all the same (ring to ring "F1-F2", to the engine "F" or "F-G") is understood. */
function withoutNeedlessPlace<T extends z.infer<typeof stepSchema>>(reading: T): T {
  if (!isTestId(reading.test) || reading.at === undefined) return reading;
  const { points, red, black } = testOf(reading.test);
  if (points !== "none") return reading;
  const [from, to] = [spoken(red), spoken(black)];
  const said = [`${from}-${to}`, `${to}-${from}`, ...(to === "G" ? [from] : [])];
  return said.includes(reading.at) ? { ...reading, at: undefined } : reading;
}

/** What is wrong with a reading on a machine, or with a step where it holds no value. */
function readingProblem(reading: z.infer<typeof stepSchema> & { value?: number | string }, sheet: Sheet): FieldProblem | undefined {
  if (!isTestId(reading.test)) {
    return { field: "test", error: notTaken(reading.test, sheet) };
  }
  const step = stepProblem({ ...reading, test: reading.test }, sheet);
  if (step || reading.value === undefined) return step;
  const checked = checkValue(reading.value, reading.test);
  return checked.ok ? undefined : { field: "value", error: checked.error };
}

/** The line at which text stops being JSON, as "line 3". JSON.parse does not always say, so a tolerant parser is asked. */
function brokenAt(text: string): string {
  const errors: ParseError[] = [];
  parseTolerant(text, errors);
  const offset = errors[0]?.offset ?? 0;
  return `line ${text.slice(0, offset).split("\n").length}`;
}

function dropUndefined<T extends object>(object: T): { [K in keyof T]: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]: Exclude<T[K], undefined>;
  };
}

/** Writes a case as the JSON document others can read; the machine's sheet travels inline. */
export function writeCase(file: Case): string {
  const { readings, sheet, batteryAgeYears, ...rest } = file;
  const { loose, ...model } = sheet;
  const document = {
    uvrelCase: 1,
    machine: { inline: model },
    ...(loose ? { loose } : {}),
    ...rest,
    ...(batteryAgeYears === null ? {} : { batteryAgeYears }),
    readings: readings.map(({ id: _, raw, hot, charged, afterRepair, ...reading }) => ({
      ...reading,
      ...(raw ? { raw } : {}),
      ...(hot ? { hot } : {}),
      ...(charged ? { charged } : {}),
      ...(afterRepair ? { afterRepair } : {}),
    })),
  };
  return `${JSON.stringify(document, null, 2)}\n`;
}
