interface FigureInSentenceProps {
  before: string;
  after: string;
  text: string;
  onText: (text: string) => void;
  /** Whether what is typed is a number that can be worked with. */
  good: boolean;
  /** Id of the line that says what is allowed, or what the figure means. */
  says: string;
}

/** A figure typed inside a sentence that labels it: the phone's number keys, marked while it cannot be used. */
export function FigureInSentence({ before, after, text, onText, good, says }: FigureInSentenceProps) {
  return (
    <label className="mt-1 flex items-center gap-2">
      {before}
      <input
        className="border-hair bg-sheet num min-h-10 w-20 border px-2"
        value={text}
        onChange={(event) => onText(event.target.value)}
        inputMode="decimal"
        aria-invalid={good ? undefined : true}
        aria-describedby={says}
      />
      {after}
    </label>
  );
}
