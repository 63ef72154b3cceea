import { isNumber } from "../../units";
import type { Clearing, Evidence, Finding, Page } from "./evidence";

/** A pulled fuse feeds the culprit when the draw falls below this share of what it was. */
const DROP_SHARE = 0.4;

/** Page six: it charges, yet goes flat. */
export function drainPage(e: Evidence): Page {
  const findings: Finding[] = [];
  const clearings: Clearing[] = [];
  const drain = e.last("drain.current");
  const unplugged = e.last("drain.unitUnplugged");
  if (drain?.judged === "high" && unplugged?.judged !== "in") {
    const culprit = e.of("drain.fusePulled").find((one) => isNumber(one.value) && isNumber(drain.value) && one.value < DROP_SHARE * drain.value);
    const fuse = e.context.sheet.fuses.find((one) => one.id === culprit?.reading.at);
    findings.push({
      fault: "loads.parasitic",
      weight: culprit || unplugged ? "settles" : "points",
      ...(culprit ? { where: `on fuse ${culprit.reading.at}${fuse ? `, ${fuse.feeds}` : ""}` } : {}),
      says: culprit ? "The draw falls when that fuse is pulled." : "The draw with the key out is above the limit.",
      because: [drain, ...(unplugged ? [unplugged] : []), ...(culprit ? [culprit] : [])],
    });
  }
  if (drain?.judged === "in") clearings.push({ part: "loads", says: "The draw with the key out is within the limit.", because: [drain] });
  return { findings, clearings };
}
