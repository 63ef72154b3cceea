import { useEffect, useMemo, useSyncExternalStore } from "react";
import { type EntryAnswer, entryId, type JobEntry } from "./entry";

/** How an entry stands: waiting to be sent, kept by the store, or refused with a reason. */
export interface Sent {
  jobId: number;
  entry: JobEntry;
  state: "waiting" | "kept" | "refused";
  error?: string;
}

const SHELF = "uvrel.outbox";
const RETRY_MS = 3000;

/**
 * What the bench has written and the store has not yet confirmed. It lives in the browser's own storage, so a dead
 * phone or a lost line loses nothing; entries are sent again by themselves, in order, until each is kept or refused.
 */
export class Outbox {
  #sent: readonly Sent[] = [];
  readonly #listeners = new Set<() => void>();
  #sending = false;
  #loaded = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Reads what an earlier page left behind and starts sending; harmless to call again. */
  wake(): void {
    if (!this.#loaded) {
      this.#loaded = true;
      this.#sent = readShelf();
      window.addEventListener("online", () => void this.#send());
      this.#changed();
    }
    void this.#send();
  }

  add(jobId: number, entry: JobEntry): void {
    this.#sent = [...this.#sent, { jobId, entry, state: "waiting" }];
    this.#changed();
    void this.#send();
  }

  /** Takes a refused entry off the shelf, once the mechanic has read why. */
  drop(id: string): void {
    this.#sent = this.#sent.filter((one) => entryId(one.entry) !== id);
    this.#changed();
  }

  snapshot = (): readonly Sent[] => this.#sent;

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  async #send(): Promise<void> {
    if (this.#sending) return;
    this.#sending = true;
    clearTimeout(this.#timer);
    for (let next = this.#next(); next; next = this.#next()) {
      const answer = await post(next);
      if (answer === "unreachable") {
        this.#timer = setTimeout(() => void this.#send(), RETRY_MS);
        break;
      }
      this.#settle(next, answer);
    }
    this.#sending = false;
  }

  #next(): Sent | undefined {
    return this.#sent.find((one) => one.state === "waiting");
  }

  #settle(sent: Sent, answer: EntryAnswer): void {
    const id = entryId(sent.entry);
    this.#sent = this.#sent.map((one) =>
      entryId(one.entry) !== id ? one : answer.kept ? { ...one, state: "kept" } : { ...one, state: "refused", error: answer.error },
    );
    this.#changed();
  }

  #changed(): void {
    writeShelf(this.#sent);
    for (const listener of this.#listeners) listener();
  }
}

/** Sends one entry; a server that cannot be reached or is starting up is not a refusal. */
async function post({ jobId, entry }: Sent): Promise<EntryAnswer | "unreachable"> {
  try {
    const response = await fetch(`/jobs/${jobId}/entries`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(entry),
    });
    if (response.status >= 500) return "unreachable";
    const answer: unknown = await response.json().catch(() => undefined);
    if (isAnswer(answer)) return answer;
    return { kept: false, field: "entry", error: `The server refused it (${response.status}).` };
  } catch {
    return "unreachable";
  }
}

function isAnswer(value: unknown): value is EntryAnswer {
  return typeof value === "object" && value !== null && "kept" in value;
}

function readShelf(): Sent[] {
  try {
    const shelf: unknown = JSON.parse(localStorage.getItem(SHELF) ?? "[]");
    return Array.isArray(shelf) ? (shelf as Sent[]) : [];
  } catch {
    return [];
  }
}

function writeShelf(sent: readonly Sent[]): void {
  try {
    localStorage.setItem(SHELF, JSON.stringify(sent.filter((one) => one.state !== "kept")));
  } catch {
    // Storage is full or switched off: the entries stay in memory and are still sent.
  }
}

const outbox = new Outbox();
const NOTHING: readonly Sent[] = [];

/** The outbox as one job sees it. */
export function useOutbox(jobId: number): {
  sent: readonly Sent[];
  waiting: number;
  add: (entry: JobEntry) => void;
  drop: (id: string) => void;
} {
  const all = useSyncExternalStore(outbox.subscribe, outbox.snapshot, () => NOTHING);
  useEffect(() => outbox.wake(), []);
  return useMemo(() => {
    const sent = all.filter((one) => one.jobId === jobId);
    return {
      sent,
      waiting: sent.filter((one) => one.state === "waiting").length,
      add: (entry: JobEntry) => outbox.add(jobId, entry),
      drop: (id: string) => outbox.drop(id),
    };
  }, [all, jobId]);
}
