import { isWriting } from "./keys";

/**
 * Puts the focus into the field that a page now asks for. A page turns by itself, late at times: while another field is being written
 * in, the focus stays there, or the rest of a figure would land in the wrong one.
 */
export function takeFocus(field: HTMLElement | null): void {
  if (isWriting(document.activeElement)) return;
  field?.focus({ preventScroll: true });
}
