import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 767px)";

/** True on a phone-sized window; the server draws for a wide one and the phone corrects it. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (listener) => {
      const query = window.matchMedia(NARROW);
      query.addEventListener("change", listener);
      return () => query.removeEventListener("change", listener);
    },
    () => window.matchMedia(NARROW).matches,
    () => false,
  );
}
