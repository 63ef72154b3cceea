import { useLayoutEffect, useRef } from "react";

/** The keys of every screen, of the bench and of the rig, for the key list. */
export const KEYS = [
  ["0–9 , . −", "start an entry"],
  ["Enter", "keep it and move on"],
  ["o", "open line"],
  ["z", "lead zero"],
  ["b", "back one step"],
  ["n", "skip with a reason"],
  ["s", "swap the probes"],
  ["w", "why this step"],
  ["u", "the cautions have been read"],
  ["e", "let the machine wait"],
  ["x", "what each suspect would show"],
  ["l", "the run list"],
  ["a", "the reading worth taking next"],
  ["t", "other readings worth taking"],
  ["f", "on by the odds, or by the list"],
  ["v", "verdict and proof"],
  ["/", "find anything"],
  ["g r", "to the rail"],
  ["g n", "take in a machine"],
  ["g d", "to the day's plan"],
  ["g c", "to the records"],
  ["g m", "to the sheets"],
  ["g t", "to the rig"],
  ["g l", "to the traces"],
  ["g s", "to the shop"],
  ["e k l", "rig: engine, key, loads"],
  ["t d s", "rig: throttle, dial, swap"],
  ["r b", "rig: red or black on the eyelet in focus"],
  ["p c", "rig: hold the scope, sound machine"],
  ["?", "this list"],
] as const;

type Handlers = Record<string, ((event: KeyboardEvent) => void) | undefined>;

/** True where letters are being written, so that single keys must stay letters. */
export function isWriting(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // In the entry field letters are commands until something stands in it; then they may be a unit.
  if (target instanceof HTMLInputElement && target.dataset.entry !== undefined) return target.value !== "";
  return (
    target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && !["checkbox", "radio", "submit", "button"].includes(target.type))
  );
}

/** True while a dialog is open: its keys are its own. */
function isDialogOpen(): boolean {
  return document.querySelector("[role=dialog]") !== null;
}

/**
 * Listens for single keys on the whole page while no field is being written in. Two-key combinations are named
 * with a space ("g r"). The `*` handler gets every key nobody else took.
 */
export function useKeys(handlers: Handlers): void {
  const latest = useRef(handlers);
  latest.current = handlers;
  // Heard from the moment the page stands: a key pressed between the paint and a later effect would be lost.
  useLayoutEffect(() => {
    let first = "";
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || isWriting(event.target) || isDialogOpen()) return;
      const combined = `${first} ${event.key}`;
      first = "";
      const handler = latest.current[combined] ?? latest.current[event.key];
      if (handler) {
        event.preventDefault();
        handler(event);
      } else if (Object.keys(latest.current).some((name) => name.startsWith(`${event.key} `))) first = event.key;
      else latest.current["*"]?.(event);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
