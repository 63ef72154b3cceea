import { useLayoutEffect, useState } from "react";
import { readDevice, writeDevice } from "../ui/device";

const KEPT = "uvrel.order";

/** Whether the bench goes on by the odds or by the list after a reading; kept on this device. Until the page has looked, by the odds. */
export function useOrder(): [byOdds: boolean, set: (byOdds: boolean) => void] {
  const [byOdds, setByOdds] = useState(true);
  useLayoutEffect(() => setByOdds(readDevice(KEPT) !== "list"), []);
  return [
    byOdds,
    (next) => {
      writeDevice(KEPT, next ? "odds" : "list");
      setByOdds(next);
    },
  ];
}
