import { useSyncExternalStore } from "react";

const never = (): (() => void) => () => undefined;

/** Whether the page's script has taken over: false on the server and in the first paint. A form that only the script can keep takes nothing before. */
export function useListening(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
