import { useEffect, useState } from "react";
import { readDevice, writeDevice } from "./device";

/** Text being typed for one step; it survives a reload or a phone going to sleep. */
export function useDraft(key: string): [string, (text: string) => void] {
  const shelf = `uvrel.draft.${key}`;
  const [draft, setDraft] = useState({ shelf, text: "" });
  const text = draft.shelf === shelf ? draft.text : "";
  useEffect(() => {
    setDraft({ shelf, text: readDevice(shelf) ?? "" });
  }, [shelf]);
  const set = (next: string): void => {
    setDraft({ shelf, text: next });
    // Where nothing can be kept, the draft lives as long as the page.
    writeDevice(shelf, next === "" ? undefined : next);
  };
  return [text, set];
}
