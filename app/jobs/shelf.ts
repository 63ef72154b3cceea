import { namesOnDevice, readDevice, writeDevice } from "../ui/device";
import { entryId, type JobEntry } from "./entry";

/** An entry as it lies on the device until the store has it. */
export interface Shelved {
  jobId: number;
  /** The machine's tag, by which a mechanic knows the job. */
  tag: string;
  entry: JobEntry;
  /** When it was written down, ms; what was written first is sent first. */
  writtenAt: number;
  /** Why the store would not keep it. */
  refusal?: string;
}

/**
 * The shelf of entries not yet confirmed. Each lies under a name of its own, so that two tabs never write over each other's: what one
 * adds or takes off touches nothing else.
 */
const SHELF = "uvrel.outbox.";
/** Up to an earlier edition all of them lay in one list. */
const ONE_LIST = "uvrel.outbox";
/** What cannot be read is left lying under another name: no page goes wrong over it, and nothing is lost. */
const ASIDE = "uvrel.aside.";

/** Puts an entry on the shelf. @returns whether the device kept it */
export function shelve(shelved: Shelved): boolean {
  return writeDevice(SHELF + entryId(shelved.entry), JSON.stringify(shelved));
}

/** Takes an entry off the shelf. */
export function unshelve(id: string): void {
  writeDevice(SHELF + id, undefined);
}

/** True for the name of something on the shelf. */
export const isShelfName = (name: string | null): boolean => name === null || name.startsWith(SHELF) || name === ONE_LIST;

/** All that lies on the shelf, in the order in which it was written down; what cannot be read is set aside. */
export function onShelf(): Shelved[] {
  takeApart();
  const found = namesOnDevice().flatMap((name): Shelved[] => {
    if (!name.startsWith(SHELF)) return [];
    const text = readDevice(name);
    if (text === undefined) return [];
    const found = parsed(text);
    if (isShelved(found) && SHELF + entryId(found.entry) === name) return [found];
    if (writeDevice(ASIDE + name.slice(SHELF.length), text)) writeDevice(name, undefined);
    return [];
  });
  return found.sort((a, b) => a.writtenAt - b.writtenAt || (entryId(a.entry) < entryId(b.entry) ? -1 : 1));
}

/** Gives each entry of an earlier edition's list its own place. */
function takeApart(): void {
  const text = readDevice(ONE_LIST);
  if (text === undefined) return;
  const list = parsed(text);
  const entries = (Array.isArray(list) ? list : [list]).map((line, writtenAt): unknown =>
    typeof line === "object" && line !== null
      ? { writtenAt, tag: `job ${(line as { jobId?: unknown }).jobId}`, ...line, ...(typeof line.error === "string" ? { refusal: line.error } : {}) }
      : line,
  );
  const all = entries.every((entry, k) => (isShelved(entry) ? shelve(entry) : writeDevice(`${ASIDE}list-${k}`, JSON.stringify(entry) ?? "")));
  if (all) writeDevice(ONE_LIST, undefined);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** True for an entry that this edition can show and send: whatever else a shelf holds, no page may trip over it. */
function isShelved(value: unknown): value is Shelved {
  if (typeof value !== "object" || value === null) return false;
  const { jobId, tag, entry, writtenAt } = value as Record<string, unknown>;
  if (!Number.isSafeInteger(jobId) || typeof tag !== "string" || typeof writtenAt !== "number" || typeof entry !== "object" || entry === null) return false;
  const { kind, reading, skip, id, leadOhms } = entry as Record<string, Record<string, unknown> | undefined> & {
    kind?: unknown;
    id?: unknown;
    leadOhms?: unknown;
  };
  const { cautions, wait, pulledFor, trace, takenAt: at } = entry as Record<string, unknown>;
  if (kind === "caution") return typeof id === "string" && Array.isArray(cautions) && typeof at === "string";
  if (kind === "wait")
    return (
      typeof id === "string" && typeof at === "string" && typeof wait === "object" && wait !== null && typeof (wait as { what?: unknown }).what === "string"
    );
  if (kind === "trace") return typeof id === "string" && typeof at === "string" && typeof trace === "object" && trace !== null;
  if (kind === "put-back") return typeof id === "string" && typeof at === "string" && typeof pulledFor === "string";
  if (kind === "lead-zero") return typeof id === "string" && typeof leadOhms === "number";
  if (kind === "skip") return typeof skip?.id === "string" && typeof skip.step === "string" && typeof skip.reason === "string";
  if (kind !== "reading" || typeof reading !== "object" || reading === null) return false;
  const { test, value: read, takenAt } = reading;
  return typeof reading.id === "string" && typeof test === "string" && (typeof read === "number" || typeof read === "string") && typeof takenAt === "string";
}
