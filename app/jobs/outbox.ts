import { useEffect, useSyncExternalStore } from "react";
import { type EntryAnswer, entryId, type JobEntry } from "./entry";
import { isShelfName, onShelf, type Shelved, shelve, unshelve } from "./shelf";

/** How an entry stands: waiting to be sent, kept by the store, or refused with a reason. */
export interface Sent {
  jobId: number;
  /** The machine's tag. */
  tag: string;
  entry: JobEntry;
  state: "waiting" | "kept" | "refused";
  /** Why it was refused, or what it waits for where that is not the line. */
  error?: string;
  /** The device had no room for it: it lives as long as the page. */
  unshelved?: true;
}

/** How soon what waits is sent again: where the line or the server is to blame, and where somebody has to do something first. */
const AGAIN = { unreachable: 3000, later: 15_000 } as const;
/** A server that has not answered by then is one that cannot be reached, ms. */
const PATIENCE = 20_000;

/** Nobody is signed in any more: what was written down waits for whoever signs in next on this device. */
const SIGN_IN: EntryAnswer = { kept: false, field: "session", error: "Sign in again, and it is sent by itself.", later: true };

interface Held extends Sent {
  writtenAt: number;
}

/**
 * What has been written down and the store has not yet confirmed. It lies on the device's own shelf, so a dead phone or a lost line
 * loses nothing; entries are sent again by themselves, each job's in order, until each is kept or refused. One job that gets nowhere
 * holds back no other.
 */
export class Outbox {
  #held: readonly Held[] = [];
  #shown: readonly Sent[] = [];
  readonly #listeners = new Set<() => void>();
  #sending = false;
  #awake = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Reads what other pages left behind, watches what they add, and starts sending; harmless to call again. */
  wake(): void {
    if (!this.#awake) {
      this.#awake = true;
      this.#look();
      window.addEventListener("online", () => void this.#send());
      window.addEventListener("storage", ({ key }) => {
        if (!isShelfName(key)) return;
        this.#look();
        void this.#send();
      });
      // What lives in this page alone would go with it.
      window.addEventListener("beforeunload", (event) => {
        if (this.#held.some((held) => held.state === "waiting" && held.unshelved)) event.preventDefault();
      });
    }
    void this.#send();
  }

  add({ jobId, tag }: Pick<Sent, "jobId" | "tag">, entry: JobEntry): void {
    const shelved: Shelved = { jobId, tag, entry, writtenAt: Date.now() };
    this.#held = [...this.#held, { ...shelved, state: "waiting", ...(shelve(shelved) ? {} : { unshelved: true as const }) }];
    this.#changed();
    void this.#send();
  }

  /** Takes a refused entry off the shelf, once the mechanic has read why; with another in its place where it was put right. */
  drop(id: string, instead?: JobEntry): void {
    const dropped = this.#held.find((held) => entryId(held.entry) === id);
    this.#held = this.#held.filter((held) => held !== dropped);
    if (dropped && instead) this.add(dropped, instead);
    unshelve(id);
    this.#changed();
  }

  snapshot = (): readonly Sent[] => this.#shown;

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Takes up what other pages have put on the shelf, and what they have sent or set aside since. */
  #look(): void {
    const shelf = onShelf();
    const lies = new Map(shelf.map((shelved) => [entryId(shelved.entry), shelved]));
    const known = new Set(this.#held.map(({ entry }) => entryId(entry)));
    const still = this.#held.flatMap((held): Held[] => {
      const on = lies.get(entryId(held.entry));
      if (on?.refusal !== undefined) return [{ ...held, state: "refused", error: on.refusal }];
      if (on || held.unshelved || held.state === "kept") return [held];
      // Gone from the shelf: another page saw it kept, or set a refused one aside.
      return held.state === "waiting" ? [{ ...held, state: "kept" }] : [];
    });
    const fresh = shelf.flatMap((shelved): Held[] => {
      if (known.has(entryId(shelved.entry))) return [];
      const { refusal, ...rest } = shelved;
      return [{ ...rest, ...(refusal === undefined ? { state: "waiting" } : { state: "refused", error: refusal }) }];
    });
    this.#held = [...still, ...fresh];
    this.#changed();
  }

  async #send(): Promise<void> {
    if (this.#sending) return;
    this.#sending = true;
    clearTimeout(this.#timer);
    let again: number = Number.POSITIVE_INFINITY;
    const stuck = new Set<number>();
    for (let next = this.#next(stuck); next; next = this.#next(stuck)) {
      const answer = await post(next);
      if (answer === "unreachable" || (!answer.kept && answer.later)) {
        stuck.add(next.jobId);
        // A database that was held by another program is mostly free again in a moment.
        again = Math.min(again, answer === "unreachable" || answer.field === "database" ? AGAIN.unreachable : AGAIN.later);
        this.#settle(next, { state: "waiting", error: answer === "unreachable" ? undefined : answer.error });
      } else if (answer.kept) {
        unshelve(entryId(next.entry));
        this.#settle(next, { state: "kept", error: undefined });
      } else {
        const { jobId, tag, entry, writtenAt } = next;
        shelve({ jobId, tag, entry, writtenAt, refusal: answer.error });
        this.#settle(next, { state: "refused", error: answer.error });
      }
    }
    this.#sending = false;
    if (Number.isFinite(again)) this.#timer = setTimeout(() => void this.#send(), again);
  }

  #next(stuck: ReadonlySet<number>): Held | undefined {
    return this.#held.find((held) => held.state === "waiting" && !stuck.has(held.jobId));
  }

  #settle(sent: Held, { state, error }: { state: Sent["state"]; error: string | undefined }): void {
    const id = entryId(sent.entry);
    this.#held = this.#held.map((held) => {
      if (entryId(held.entry) !== id || (held.state === state && held.error === error)) return held;
      const { error: _before, ...rest } = held;
      return { ...rest, state, ...(error === undefined ? {} : { error }) };
    });
    this.#changed();
  }

  #changed(): void {
    if (this.#shown.length === this.#held.length && this.#shown.every((sent, k) => sent === this.#held[k])) return;
    this.#shown = this.#held;
    for (const listener of this.#listeners) listener();
  }
}

/**
 * Sends one entry. Only the store's own answer settles it: a server that is starting, a sign-in page, a wall in between, a full disk
 * are none.
 */
async function post({ jobId, entry }: Sent): Promise<EntryAnswer | "unreachable"> {
  try {
    const response = await fetch(`/jobs/${jobId}/entries`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(entry),
      signal: AbortSignal.timeout(PATIENCE),
    });
    if (response.status === 401) return SIGN_IN;
    if (![200, 422, 503].includes(response.status)) return "unreachable";
    const answer: unknown = await response.json().catch(() => undefined);
    // A store that could not write is one that will, once somebody has looked to it.
    return isAnswer(answer) && (response.status !== 503 || ("later" in answer && answer.later)) ? answer : "unreachable";
  } catch {
    return "unreachable";
  }
}

function isAnswer(value: unknown): value is EntryAnswer {
  if (typeof value !== "object" || value === null) return false;
  const { kept, field, error } = value as Record<string, unknown>;
  return kept === true || (kept === false && typeof field === "string" && typeof error === "string");
}

/** The one outbox of the page. */
export const outbox = new Outbox();
const NOTHING: readonly Sent[] = [];

/** Everything that was written down on this device and is not yet confirmed, of all jobs. */
export function useAllSent(): readonly Sent[] {
  const all = useSyncExternalStore(outbox.subscribe, outbox.snapshot, () => NOTHING);
  useEffect(() => outbox.wake(), []);
  return all;
}
