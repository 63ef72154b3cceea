import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

interface PanelSheetProps {
  onClose: () => void;
  title: string;
  children: ReactNode;
}

/** What an open panel lays over the page: it holds the focus while it is there, and gives it back to what was in focus before. */
export function PanelSheet({ onClose, title, children }: PanelSheetProps) {
  const before = useRef(document.activeElement);
  return (
    <Dialog.Root open onOpenChange={(open) => (open ? undefined : onClose())}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (before.current instanceof HTMLElement) before.current.focus();
          }}
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
