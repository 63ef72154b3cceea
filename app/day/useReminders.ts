import { useEffect, useState } from "react";
import type { Wait } from "../../core/procedure/waits";
import { waitWords } from "../bench/WaitStrip";
import { beep } from "../ui/beep";

/** Something that is over at a time. */
interface Due {
  key: string;
  at: number;
  says: string;
}

/** A job's wait as something due; none where nobody knows until when. */
export function dueOf(jobId: number, name: string, wait: Wait | null | undefined): Due[] {
  if (!wait?.until) return [];
  const at = Date.parse(wait.until);
  return [{ key: String(jobId), at, says: `${name}: ${waitWords(wait, at)}.` }];
}

/** What ran out while the page was open, each said once with a tone; nothing leaves the machine. */
export function useReminders(due: readonly Due[], then: () => void): string[] {
  const [said, setSaid] = useState<string[]>([]);
  const text = JSON.stringify(due);
  // biome-ignore lint/correctness/useExhaustiveDependencies: timers are set anew when what is due changes, not at every drawing
  useEffect(() => {
    const timers = (JSON.parse(text) as Due[])
      .filter(({ at }) => at > Date.now() && at - Date.now() < 24 * 3_600_000)
      .map(({ at, says }) =>
        setTimeout(() => {
          beep();
          setSaid((before) => [...before.filter((reminder) => reminder !== says), says]);
          then();
        }, at - Date.now()),
      );
    return () => timers.forEach(clearTimeout);
  }, [text]);
  return said;
}
