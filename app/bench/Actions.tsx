interface ActionsProps {
  onSkip: () => void;
  onWait: () => void;
  onSwap: () => void;
  onBack: () => void;
  onWhy: () => void;
  canSwap: boolean;
  closed: boolean;
}

/** What a step has beside its entry: skipped, waited for, the probes swapped, one back, and why it is asked for. */
export function Actions({ onSkip, onWait, onSwap, onBack, onWhy, canSwap, closed }: ActionsProps) {
  const link = "text-petrol min-h-11 whitespace-nowrap";
  return (
    <div className="flex flex-wrap gap-x-6">
      {closed ? null : (
        <button type="button" className={link} onClick={onSkip}>
          Skip with a reason<span className="key">n</span>
        </button>
      )}
      {closed ? null : (
        <button type="button" className={link} onClick={onWait}>
          Let it wait<span className="key">e</span>
        </button>
      )}
      {canSwap ? (
        <button type="button" className={link} onClick={onSwap}>
          Swap probes<span className="key">s</span>
        </button>
      ) : null}
      <button type="button" className={link} onClick={onBack}>
        Back one<span className="key">b</span>
      </button>
      <button type="button" className={link} onClick={onWhy}>
        Why<span className="key">w</span>
      </button>
    </div>
  );
}
