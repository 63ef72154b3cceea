import { type RefObject, useLayoutEffect, useRef } from "react";

/**
 * Keeps a phone's entry where the thumb is: what arrives above it later (the plan, a meter's list) scrolls the page by its height, and what
 * leaves above it keeps its room until another step is open. A tap on “loose” must not land on “tight” because the odds came that moment.
 * @param key of the open step; with another the page begins at its top
 * @param narrow whether the page is a phone's, where the document scrolls
 * @returns for the column that holds the entry
 */
export function useHeldStill(key: string, narrow: boolean): RefObject<HTMLDivElement | null> {
  const column = useRef<HTMLDivElement>(null);
  const opened = useRef(key);
  useLayoutEffect(() => {
    const element = column.current;
    if (element) element.style.paddingTop = "";
    if (narrow && opened.current !== key) window.scrollTo(0, 0);
    opened.current = key;
    const entry = element?.querySelector("#entry");
    if (!narrow || !element || !entry) return;
    const depth = (): number => entry.getBoundingClientRect().top + window.scrollY;
    let [was, isTapped] = [depth(), false];
    // What moves in the first frame after a tap is what was tapped for: cautions folded open, or away. While the thumb is down nothing may.
    const onTap = (): void => {
      isTapped = true;
      requestAnimationFrame(() =>
        requestAnimationFrame(() => {
          isTapped = false;
        }),
      );
    };
    element.addEventListener("click", onTap, true);
    const observer = new ResizeObserver(() => {
      const moved = depth() - was;
      if (Math.abs(moved) < 1) return;
      if (isTapped) {
        was = depth();
        return;
      }
      const room = Math.max(0, -moved - window.scrollY);
      window.scrollBy({ top: moved, behavior: "instant" });
      if (room > 0) element.style.paddingTop = `${Number.parseFloat(getComputedStyle(element).paddingTop) + room}px`;
      was = depth();
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      element.removeEventListener("click", onTap, true);
    };
  }, [key, narrow]);
  return column;
}
