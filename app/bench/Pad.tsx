import { Delete } from "lucide-react";
import { OPEN_LINE } from "../../core/units";

interface PadProps {
  onType: (text: string) => void;
  onErase: () => void;
  /** The open line is an answer to this test. */
  open: boolean;
  onSkip: () => void;
  /** A minus sign for DC tests, a space for a test that keeps the lowest of several. */
  extra: "−" | "next" | undefined;
}

const ROWS = [
  ["1", "2", "3"],
  ["4", "5", "6"],
  ["7", "8", "9"],
] as const;

const KEY = "bg-sheet border-hair min-h-[52px] border-r border-b text-2xl";
const WORD_KEY = "border-hair min-h-[52px] border-r border-b text-lg font-medium";

/** Large keys for a thumb: digits, point, open line, skip, and Keep at the right edge. */
export function Pad({ onType, onErase, open, onSkip, extra }: PadProps) {
  return (
    <div className="border-ink grid grid-cols-4 border-t-2">
      {ROWS[0].map((digit) => (
        <Digit key={digit} {...{ digit, onType }} />
      ))}
      {open ? (
        <button type="submit" name="value" value={OPEN_LINE} className={WORD_KEY}>
          Open line
        </button>
      ) : extra ? (
        <button type="button" className={WORD_KEY} onClick={() => onType(extra === "next" ? " " : "-")}>
          {extra === "next" ? "Next dip" : "±"}
        </button>
      ) : (
        <span className="border-hair border-r border-b" />
      )}
      {ROWS[1].map((digit) => (
        <Digit key={digit} {...{ digit, onType }} />
      ))}
      <button type="button" className={WORD_KEY} onClick={onSkip}>
        Skip
      </button>
      {ROWS[2].map((digit) => (
        <Digit key={digit} {...{ digit, onType }} />
      ))}
      <button type="submit" className="bg-ink text-paper row-span-2 text-xl font-semibold">
        Keep
      </button>
      <Digit digit="." onType={onType} />
      <Digit digit="0" onType={onType} />
      <button type="button" className={`${WORD_KEY} flex items-center justify-center`} onClick={onErase} aria-label="Erase one">
        <Delete size={26} aria-hidden="true" />
      </button>
    </div>
  );
}

function Digit({ digit, onType }: { digit: string; onType: (text: string) => void }) {
  return (
    <button type="button" className={`num ${KEY}`} onClick={() => onType(digit)}>
      {digit}
    </button>
  );
}
