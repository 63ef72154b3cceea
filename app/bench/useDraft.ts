import { useEffect, useState } from "react";

/** Text being typed for one step; it survives a reload or a phone going to sleep. */
export function useDraft(key: string): [string, (text: string) => void] {
  const shelf = `uvrel.draft.${key}`;
  const [draft, setDraft] = useState({ shelf, text: "" });
  const text = draft.shelf === shelf ? draft.text : "";
  useEffect(() => {
    setDraft({ shelf, text: read(shelf) });
  }, [shelf]);
  const set = (next: string): void => {
    setDraft({ shelf, text: next });
    try {
      if (next === "") localStorage.removeItem(shelf);
      else localStorage.setItem(shelf, next);
    } catch {
      // No storage: the draft lives as long as the page.
    }
  };
  return [text, set];
}

function read(shelf: string): string {
  try {
    return localStorage.getItem(shelf) ?? "";
  } catch {
    return "";
  }
}
