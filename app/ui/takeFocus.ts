import { isWriting } from "./keys";

/**
 * Puts the focus into the field that a page now asks for. A page turns by itself, late at times: while another field is being written
 * in, the focus stays there, or the rest of a figure would land in the wrong one. A list that was chosen from lets go of it.
 */
export function takeFocus(field: HTMLElement | null, options?: FocusOptions): void {
  const { activeElement } = document;
  if (isWriting(activeElement) && !(activeElement instanceof HTMLSelectElement)) return;
  field?.focus(options);
}
