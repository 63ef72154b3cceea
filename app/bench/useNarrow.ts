import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 767px)";

/** True on a phone-sized window; the server draws by its guess, and the window corrects it. */
export function useNarrow(guess: boolean): boolean {
  return useSyncExternalStore(
    (listener) => {
      const query = window.matchMedia(NARROW);
      query.addEventListener("change", listener);
      return () => query.removeEventListener("change", listener);
    },
    () => window.matchMedia(NARROW).matches,
    () => guess,
  );
}
