import { useEffect, useState } from "react";
import type { Found } from "./found";

/** The hand rests so long before it is looked for, ms. */
const RESTS = 120;

/** What the server finds by a few letters. */
interface Looked {
  /** Undefined while it is being looked for. */
  found: readonly Found[] | undefined;
  unreachable: boolean;
}

/** Looks for what is typed once the hand rests. @param words empty: nothing is looked for */
export function useFound(words: string): Looked {
  const [found, setFound] = useState<readonly Found[]>();
  const [unreachable, setUnreachable] = useState(false);
  useEffect(() => {
    setFound(undefined);
    if (words === "") return;
    const stop = new AbortController();
    const resting = setTimeout(async () => {
      const response = await fetch(`/find?q=${encodeURIComponent(words)}`, { signal: stop.signal }).catch(() => undefined);
      const answer = response?.ok ? ((await response.json().catch(() => undefined)) as Found[] | undefined) : undefined;
      if (stop.signal.aborted) return;
      setUnreachable(answer === undefined);
      setFound(answer ?? []);
    }, RESTS);
    return () => {
      clearTimeout(resting);
      stop.abort();
    };
  }, [words]);
  return { found, unreachable };
}
