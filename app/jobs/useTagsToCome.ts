import { useEffect, useState } from "react";
import { useFetchers, useRevalidator } from "react-router";

/** How soon tags that were still to come are asked for again, ms. */
const LOOK_AGAIN = 600;

/** Asks for the page again, soon, while tags of its jobs are still being drawn behind it. */
export function useTagsToCome(some: boolean): void {
  const { revalidate, state } = useRevalidator();
  // Asking anew gives up what is still being loaded, so what loads beside the page is let through first.
  const loading = useFetchers().some((fetcher) => fetcher.state !== "idle");
  // Counted, because a page that is busy may never be drawn while it loads: by the state alone it would ask no more.
  const [asked, setAsked] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again after each answer
  useEffect(() => {
    if (!some || loading || state !== "idle") return;
    const timer = setTimeout(() => void revalidate().then(() => setAsked((times) => times + 1)), LOOK_AGAIN);
    return () => clearTimeout(timer);
  }, [some, loading, state, revalidate, asked]);
}
