import type { Advice } from "../../core/diagnosis/advice";
import type { Drawing } from "../context";

/** What the server says when it is asked for a job's advice. */
export type AdviceAnswer = { state: "advised"; advice: Advice; weighed: string[] } | Exclude<Drawing, { state: "ready" }>;

/** How often a server that is drawing, or cannot be reached, is asked again, ms. */
const AGAIN = { drawing: 300, unreachable: 2000 } as const;

/**
 * Asks the server for a job's advice until it has one.
 * @param tell hears how far the drawing of the machine's charts is
 * @returns the advice with the ids of the readings it was made from; undefined once `signal` says that nobody waits any more
 * @throws when the server says why there will be none
 */
export async function askForAdvice(
  jobId: number,
  asFound: boolean,
  signal: AbortSignal,
  tell: (done: number, of: number) => void,
): Promise<{ advice: Advice; weighed: string[] } | undefined> {
  while (!signal.aborted) {
    const response = await fetch(`/jobs/${jobId}/advice${asFound ? "?found" : ""}`, { signal }).catch(() => undefined);
    const answer = (await response?.json().catch(() => undefined)) as AdviceAnswer | undefined;
    if (answer?.state === "advised") return answer;
    if (answer?.state === "failed") throw new Error(answer.why);
    if (answer?.state === "drawing") tell(answer.done, answer.of);
    await new Promise((resolve) => setTimeout(resolve, answer ? AGAIN.drawing : AGAIN.unreachable));
  }
  return undefined;
}
