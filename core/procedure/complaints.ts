/** What owners say, as chips; `systemic` ones speak of the charging system whatever the machine went through. */
export const COMPLAINTS = [
  { id: "flat-after-ride", label: "Flat after a ride", systemic: true },
  { id: "flat-overnight", label: "Flat overnight", systemic: true },
  { id: "slow-crank", label: "Slow crank", systemic: false },
  { id: "no-crank", label: "Clicks, no crank", systemic: false },
  { id: "warning-lamp", label: "Warning lamp on", systemic: true },
  { id: "gauges-drop", label: "Gauges drop out", systemic: true },
  { id: "misfire-at-stop", label: "Misfires at a stop", systemic: true },
  { id: "lamps-pulse", label: "Lamps pulse or dim", systemic: true },
  { id: "lamps-burn-out", label: "Lamps burn out", systemic: true },
  { id: "boiled-battery", label: "Sulphur smell, boiled battery", systemic: true },
  { id: "when-warm", label: "Only when warm", systemic: true },
  { id: "sat-long", label: "Sat a long time", systemic: false },
  { id: "new-accessory", label: "New accessory", systemic: false },
] as const;

/** Plain causes: questions that can end the job before a meter comes out. */
export const PLAIN_CAUSES = [
  {
    id: "key-left-on",
    question: "Key or lights left on?",
    advice: "Charge the battery fully, rest it, crank once. If it holds, nothing has failed.",
  },
  {
    id: "sat-all-winter",
    question: "Stood for weeks without a charger?",
    advice: "A standing battery empties itself. Charge, rest, prove it; fit a maintainer plug for the next stand.",
  },
  {
    id: "short-hops",
    question: "Only short hops since the last charge?",
    advice: "A hop may not put back what the start took. Charge it and ride it for half an hour once a week.",
  },
  {
    id: "accessory-left-on",
    question: "Accessory wired straight to the battery?",
    advice: "Move its feed behind the key. Charge, rest, and see whether the flat nights stop.",
  },
] as const;

/** What the talk at the counter comes to, before any reading. */
type Triage = { kind: "test"; says: string } | { kind: "plain"; says: string; advice: string[] };

/**
 * Weighs the complaint against the plain causes: with a plain cause and nothing systemic the job may end here;
 * anything systemic goes to the bench whatever the cause.
 */
export function triage(complaints: readonly string[], causes: readonly string[]): Triage {
  const systemic = COMPLAINTS.filter((complaint) => complaint.systemic && complaints.includes(complaint.id));
  const plain = PLAIN_CAUSES.filter((cause) => causes.includes(cause.id));
  if (plain.length > 0 && systemic.length === 0) {
    return {
      kind: "plain",
      says: "A plain cause, and nothing that speaks of the charging system. You may end the job here.",
      advice: plain.map((cause) => cause.advice),
    };
  }
  if (plain.length > 0) {
    return { kind: "test", says: `“${systemic.map((complaint) => complaint.label).join(", ")}” is more than the plain cause explains: test it.` };
  }
  return { kind: "test", says: "No plain cause named: prove the battery first, then the charging volts." };
}

/** The chips' words for a list of complaint ids; unknown ids stand as they are. */
export function complaintWords(ids: readonly string[]): string[] {
  return ids.map((id) => COMPLAINTS.find((complaint) => complaint.id === id)?.label ?? id);
}
