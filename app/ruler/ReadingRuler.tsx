import { testOf } from "../../core/procedure/catalogue";
import { type JudgedReading, judgedWords } from "../../core/procedure/judge";
import { Ruler } from "./Ruler";

/** A kept reading on a small ruler of its own; nothing where there is no band to draw. */
export function ReadingRuler({ one }: { one: JudgedReading }) {
  if (!one.band || one.band.kind === "words") return null;
  const { unit, openAllowed } = testOf(one.reading.test);
  return (
    <Ruler
      small
      band={one.band}
      notches={[{ value: one.value, judged: one.judged }]}
      unit={unit}
      openAllowed={openAllowed}
      title={`${judgedWords(one)}; ${one.band.says}`}
    />
  );
}
