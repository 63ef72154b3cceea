import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface PanelProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  trigger?: ReactNode;
  children: ReactNode;
}

/** A sheet laid over the bench: full height at the right on a wide screen, the whole screen on a phone. */
export function Panel({ open, onOpenChange, title, trigger, children }: PanelProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-ink bg-paper fixed inset-y-0 right-0 z-20 flex w-full flex-col overflow-y-auto border-l-2 p-5 sm:w-[26rem]"
        >
          <div className="mb-4 flex items-center justify-between">
            <Dialog.Title className="m-0 text-xl font-semibold">{title}</Dialog.Title>
            <Dialog.Close className="flex size-11 items-center justify-center" aria-label="Close">
              <X size={22} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
