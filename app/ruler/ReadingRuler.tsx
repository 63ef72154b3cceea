import { testOf } from "../../core/procedure/catalogue";
import { type JudgedReading, judgedWords } from "../../core/procedure/judge";
import { Ruler } from "./Ruler";

/** A kept reading on a small ruler of its own; nothing where there is no band to draw. */
export function ReadingRuler({ judgedReading }: { judgedReading: JudgedReading }) {
  if (!judgedReading.band || judgedReading.band.kind === "words") return null;
  const { unit, openAllowed } = testOf(judgedReading.reading.test);
  return (
    <Ruler
      small
      band={judgedReading.band}
      notches={[{ value: judgedReading.value, judged: judgedReading.judged }]}
      unit={unit}
      openAllowed={openAllowed}
      title={`${judgedWords(judgedReading)}; ${judgedReading.band.says}`}
    />
  );
}
