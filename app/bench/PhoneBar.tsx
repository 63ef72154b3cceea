import { List } from "lucide-react";

interface PhoneBarProps {
  /** Steps that are not done. */
  left: number;
  /** What the odds lean to, in a few words. */
  suspects: string;
  onList: () => void;
  onStanding: () => void;
}

/** What stands beside the step on a wide screen, a thumb away on the phone: run list and standing. */
export function PhoneBar({ left, suspects, onList, onStanding }: PhoneBarProps) {
  return (
    <div className="border-hair mt-4 flex items-center justify-between gap-3 border-t pt-2 md:hidden">
      <button type="button" className="btn shrink-0 whitespace-nowrap" onClick={onList}>
        <List size={18} aria-hidden="true" /> {left} left
      </button>
      <button type="button" className="btn min-w-0" onClick={onStanding}>
        <span className="truncate">{suspects}</span>
      </button>
    </div>
  );
}
