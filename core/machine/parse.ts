import { z } from "zod";
import { DEFECTS, type SetFault } from "./defects";
import { FAULTS, type FaultId } from "./faults";
import { placesOf, unfitReason } from "./places";
import { type FieldProblem, problemsOf, type Sheet } from "./sheet";

// Apart from what conditions are, so that a thread which only computes does not carry the schemas of what is typed.

const setFaultSchema = z.strictObject({
  fault: z.enum(FAULTS.map((fault) => fault.id) as [FaultId, ...FaultId[]], {
    error: (issue) => `“${String(issue.input)}” is not a fault this edition knows (${FAULTS.map((fault) => fault.id).join(", ")})`,
  }),
  at: z.string().optional(),
  severity: z.number({ error: "must be a number" }).optional(),
  along: z.number({ error: "must be a number" }).min(0, "must be 0 or more").max(1, "must be 1 or less").optional(),
  coupling: z.number({ error: "must be a number" }).min(0, "must be 0 or more").max(0.95, "must be 0.95 or less").optional(),
});

/** Reads faults as typed or posted against a machine: each is named, fits the machine, and has figures within its reach. */
export function parseFaults(data: unknown, sheet: Sheet): { ok: true; faults: SetFault[] } | { ok: false; problems: FieldProblem[] } {
  const parsed = z.array(setFaultSchema).max(12, "may hold 12 faults at most").safeParse(data, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error).map(({ field, error }) => ({ field: `faults.${field}`, error })) };
  const problems = parsed.data.flatMap((set, i) => faultProblems(set, sheet).map(({ field, error }) => ({ field: `faults.${i}.${field}`, error })));
  return problems.length > 0 ? { ok: false, problems } : { ok: true, faults: parsed.data };
}

function faultProblems(set: SetFault, sheet: Sheet): FieldProblem[] {
  const { at, severity: reach, along, coupled } = DEFECTS[set.fault];
  const problems: FieldProblem[] = [];
  const why = unfitReason(set.fault, sheet);
  if (why) problems.push({ field: "fault", error: `${set.fault} cannot be on the ${sheet.model}: ${why}` });
  const places = placesOf(set.fault, sheet);
  if (set.at !== undefined && !places.includes(set.at)) {
    problems.push({ field: "at", error: places.length > 0 ? `must be one of ${places.join(", ")}` : `${set.fault} has no place` });
  }
  if (set.severity !== undefined && !(set.severity >= reach.low && set.severity <= reach.high)) {
    problems.push({ field: "severity", error: `${reach.what} must be ${reach.low} to ${reach.high} ${reach.unit}` });
  }
  if (set.along !== undefined && !along) problems.push({ field: "along", error: `${set.fault} (${at ?? "no place"}) is not along a winding` });
  if (set.coupling !== undefined && !coupled) problems.push({ field: "coupling", error: `${set.fault} shorts no turns` });
  return problems;
}
