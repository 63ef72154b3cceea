import { type ComponentType, type ReactNode, useEffect, useState } from "react";

interface PanelProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
}

type Sheet = ComponentType<{ onClose: () => void; title: string; children: ReactNode }>;

/** What draws an open panel: once it is there, all panels share it. */
let fetched: Sheet | undefined;
const fetchSheet = (): Promise<Sheet> =>
  import("./PanelSheet").then(({ PanelSheet }) => {
    fetched = PanelSheet;
    return PanelSheet;
  });

/** A page is painted and quiet after so long, ms: then what its panels need is fetched, so that a lost line takes none away. */
const QUIET = 2000;

/**
 * A sheet laid over the bench: full height at the right on a wide screen, the whole screen on a phone. What draws it comes after the
 * page's first paint, or as soon as it is asked for.
 */
export function Panel({ open, onOpenChange, title, children }: PanelProps) {
  const [Sheet, setSheet] = useState<Sheet | undefined>(() => fetched);
  const [unreachable, setUnreachable] = useState(false);
  useEffect(() => {
    if (Sheet) return;
    let here = true;
    const come = (): void =>
      void fetchSheet().then(
        (sheet) => (here ? setSheet(() => sheet) : undefined),
        () => (here ? setUnreachable(true) : undefined),
      );
    const quiet = setTimeout(come, open ? 0 : QUIET);
    return () => {
      here = false;
      clearTimeout(quiet);
    };
  }, [open, Sheet]);
  if (!open) return null;
  if (Sheet)
    return (
      <Sheet title={title} onClose={() => onOpenChange(false)}>
        {children}
      </Sheet>
    );
  return unreachable ? (
    <div role="alert" className="border-ink bg-paper fixed top-0 right-0 z-20 flex flex-wrap items-center gap-3 border-2 p-4">
      <span>
        <strong>{title}</strong> cannot be opened while the server cannot be reached. Once it is back, load the page anew.
      </span>
      <button type="button" className="btn" onClick={() => onOpenChange(false)}>
        Close
      </button>
    </div>
  ) : null;
}
