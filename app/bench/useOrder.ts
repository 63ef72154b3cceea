import { useEffect, useState } from "react";

const KEPT = "uvrel.order";

/** Whether the bench goes on by the odds or by the list after a reading; kept on this device. Until the page has looked, by the odds. */
export function useOrder(): [byOdds: boolean, set: (byOdds: boolean) => void] {
  const [byOdds, setByOdds] = useState(true);
  useEffect(() => setByOdds(localStorage.getItem(KEPT) !== "list"), []);
  return [
    byOdds,
    (next) => {
      localStorage.setItem(KEPT, next ? "odds" : "list");
      setByOdds(next);
    },
  ];
}
