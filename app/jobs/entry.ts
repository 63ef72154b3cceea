import { testOf } from "../../core/procedure/catalogue";
import type { CautionId } from "../../core/procedure/cautions";
import type { Skip } from "../../core/procedure/runlist";
import type { Reading, Step } from "../../core/procedure/step";
import type { Wait } from "../../core/procedure/waits";
import type { ReadingValue } from "../../core/units";
import type { NewTrace } from "../../store/traces";

/** A reading on its way from the bench to the store. */
interface ReadingEntry {
  kind: "reading";
  reading: Reading & { takenAt: string; repairs?: number; supersedes?: string; supersedesWhy?: "mistyped" | "taken-again" };
}

/** A skipped step on its way to the store. */
interface SkipEntry {
  kind: "skip";
  skip: Skip;
}

/** A new lead zero on its way to the store. */
interface LeadZeroEntry {
  kind: "lead-zero";
  id: string;
  leadOhms: number;
  /** When the leads were shorted: one that arrives late takes nothing from a later one. */
  takenAt: string;
}

/** Cautions that whoever stands at the machine has said to have read. */
interface CautionEntry {
  kind: "caution";
  id: string;
  cautions: CautionId[];
  takenAt: string;
}

/** A wait begun or ended. */
interface WaitEntry {
  kind: "wait";
  id: string;
  wait: Omit<Wait, "beganAt">;
  takenAt: string;
}

/** What was pulled for a reading is back in its place. */
interface PutBackEntry {
  kind: "put-back";
  id: string;
  /** The reading that it was pulled for. */
  pulledFor: string;
  takenAt: string;
}

/** The curve of a dip that a live meter caught. */
interface TraceEntry {
  kind: "trace";
  id: string;
  trace: Omit<NewTrace, "id">;
  repairs: number;
  takenAt: string;
}

/** Whatever the bench writes goes through one door, each with an id made at the bench. */
export type JobEntry = ReadingEntry | SkipEntry | LeadZeroEntry | CautionEntry | WaitEntry | PutBackEntry | TraceEntry;

/** The id of an entry, made once at the bench. */
export function entryId(entry: JobEntry): string {
  return entry.kind === "reading" ? entry.reading.id : entry.kind === "skip" ? entry.skip.id : entry.id;
}

/** What the store answers to an entry; `later` where it will be taken once somebody has done what the error says. */
export type EntryAnswer = { kept: true } | { kept: false; field: string; error: string; later?: true };

/** A new id; falls back on random digits where the page is not a secure context. */
export function newId(): string {
  if (typeof crypto.randomUUID === "function") return crypto.randomUUID();
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** A reading as it leaves the bench: with an id of its own, the time, the lead zero where leads count, and whether it is of the mended machine. */
export function readingOf(step: Step, value: ReadingValue, { repairs, leadOhms }: { repairs: number; leadOhms: number }): ReadingEntry["reading"] {
  return {
    ...step,
    id: newId(),
    value,
    takenAt: new Date().toISOString(),
    ...(repairs > 0 ? { afterRepair: true, repairs } : {}),
    ...(testOf(step.test).leadZero ? { raw: true, leadOhms } : {}),
  };
}
