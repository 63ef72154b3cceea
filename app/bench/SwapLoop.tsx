import { useState } from "react";
import { bandFor } from "../../core/procedure/bands";
import type { JudgingContext } from "../../core/procedure/judge";
import type { Step } from "../../core/procedure/step";
import { SWAPS, swapTells } from "../../core/procedure/swap";
import { formatQuantity } from "../../core/units";
import { useDraft } from "../ui/useDraft";
import { ReadingField } from "./ReadingField";

interface SwapLoopProps {
  context: JudgingContext;
  jobId: number;
  /** Keeps what the swap came to, with its figures as a note. */
  onKeep: (value: string, note: string) => void;
}

/** A known-good unit in, out and in again, each time with the charging volts at the test rpm, lights on. */
export function SwapLoop({ context: { sheet, school }, jobId, onKeep }: SwapLoopProps) {
  const [kept, setKept] = useDraft(`${jobId}.swap`);
  const [last, setLast] = useState(false);
  const volts = kept.split(" ").filter(Boolean).map(Number);
  const step: Step = { test: "charge.volts", rpm: sheet.testRpm, loads: "normal" };
  const band = bandFor(step, sheet, school);
  const told = swapTells(volts, sheet.systemVolts, band?.kind === "between" ? band.low : undefined);
  const now = SWAPS[volts.length];
  const ended = told.says !== undefined || volts.length === SWAPS.length;
  const note = volts.map((reading, k) => `${SWAPS[k]} ${formatQuantity(reading, "V")}`).join("; ");
  return (
    <section aria-label="Swap there and back" className="border-hair border-t pt-2">
      <h2 className="m-0 text-base">In, out, and in again: charging volts at {sheet.testRpm.toLocaleString("en")} rpm each time</h2>
      <ol className="m-0 list-none p-0">
        {SWAPS.map((what, k) => (
          <li key={what} className={`flex flex-wrap items-baseline justify-between gap-x-4 ${what === now && !ended ? "rule-left" : ""}`}>
            <span className={what === now && !ended ? "font-semibold" : k >= volts.length ? "text-mute" : ""}>{what}</span>
            {volts[k] === undefined ? null : <span className="num">{formatQuantity(volts[k], "V")}</span>}
          </li>
        ))}
      </ol>
      <p className="m-0" role="status">
        {told.words}
      </p>
      {ended ? (
        <div className="flex flex-wrap items-center gap-4">
          {told.says ? (
            <button type="button" className="btn btn-main" onClick={() => onKeep(told.says ?? "", note)}>
              Keep: {told.says}
            </button>
          ) : null}
          <button
            type="button"
            className="min-h-10 underline"
            onClick={() => {
              setKept("");
              setLast(false);
            }}
          >
            Begin anew
          </button>
          <span className="text-mute">With the known-good unit left in, read the drain as well: some draw current at rest.</span>
        </div>
      ) : now ? (
        <ReadingField
          step={step}
          draft={`${jobId}.swap.${volts.length}`}
          label={`${now}: charging volts`}
          unit="V"
          button="Keep"
          first={last}
          onKeep={(value) => {
            setKept([...volts, value].join(" "));
            setLast(true);
          }}
        />
      ) : null}
    </section>
  );
}
