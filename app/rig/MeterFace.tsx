import type { RefObject } from "react";
import type { MeterDial } from "../../core/meter/read";
import { RIG_DIALS } from "../../core/rig/setup";

interface MeterFaceProps {
  dial: MeterDial;
  onDial: (dial: MeterDial) => void;
  inHand: "red" | "black";
  onHand: (probe: "red" | "black") => void;
  red: string;
  black: string;
  /** Filled at every update without going through React. */
  figure: RefObject<HTMLParagraphElement | null>;
  sound: RefObject<HTMLParagraphElement | null>;
  withSound: boolean;
}

const WORDS: Record<MeterDial, { unit: string; says: string }> = {
  "V DC": { unit: "V", says: "volts DC" },
  "V AC": { unit: "V AC", says: "volts AC" },
  Ω: { unit: "Ω", says: "ohms" },
  diode: { unit: "V", says: "diode" },
  "A DC": { unit: "mA", says: "milliamps, in series" },
  clamp: { unit: "A", says: "amps, clamp on battery plus" },
};

/** The meter: its figure, its dial as a row of stops, and which probe the hand holds. */
export function MeterFace({ dial, onDial, inHand, onHand, red, black, figure, sound, withSound }: MeterFaceProps) {
  return (
    <section aria-label="Meter">
      <div className="border-ink bg-sheet flex items-baseline justify-between border-2 px-4 py-1">
        <p ref={figure} className="num m-0 text-[3rem] leading-tight" data-meter="">
          - - -
        </p>
        <span className="text-mute text-2xl">{WORDS[dial].unit}</span>
      </div>
      <p ref={sound} className={`text-mute m-0 mt-1 min-h-6 ${withSound ? "" : "invisible"}`} />
      <fieldset className="border-ink m-0 mt-1 grid grid-cols-6 border-y border-r p-0">
        <legend className="sr-only">Dial</legend>
        {RIG_DIALS.map((meterDial) => (
          <label
            key={meterDial}
            title={WORDS[meterDial].says}
            className={`border-ink relative flex min-h-11 cursor-pointer items-center justify-center border-l ${meterDial === dial ? "bg-ink text-paper" : ""}`}
          >
            <input
              type="radio"
              name="dial"
              className="absolute inset-0 opacity-0"
              checked={meterDial === dial}
              onChange={() => onDial(meterDial)}
              aria-label={WORDS[meterDial].says}
            />
            <span aria-hidden="true">{meterDial}</span>
          </label>
        ))}
      </fieldset>
      <div className="mt-2 grid gap-1">
        {(["red", "black"] as const).map((probe) => (
          <button
            key={probe}
            type="button"
            aria-pressed={inHand === probe}
            onClick={() => onHand(probe)}
            className={`flex min-h-11 items-center gap-2 px-2 text-left ${inHand === probe ? "border-ink border-2" : "border-hair border"}`}
          >
            <span
              className={`num inline-flex size-5 shrink-0 items-center justify-center rounded-full border-2 text-xs ${probe === "red" ? "border-(--wire-red)" : "border-ink"}`}
              aria-hidden="true"
            >
              {probe === "red" ? "+" : "−"}
            </span>
            <span className="min-w-0 flex-1 truncate">
              {probe === "red" ? "Red" : "Black"} on {probe === "red" ? red : black}
            </span>
            {inHand === probe ? <span className="text-mute">in hand</span> : null}
          </button>
        ))}
      </div>
    </section>
  );
}
