import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState, type ReactNode } from "react";
import { unlessGoneOn } from "./unlessGoneOn";
import { Veil } from "./Veil";

/** A sheet at the side, over the page; Escape closes it. */
export function SideSheet({
  title,
  open,
  onClose,
  children,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  // A dialog that was never open has the page drawn twice before it is seen.
  const [isMade, setMade] = useState(open);
  if (open && !isMade) setMade(true);
  if (!isMade) return null;
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Veil />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={unlessGoneOn}
          onOpenAutoFocus={(e) => {
            // Work begins in the first field, where there is one, not at the cross that closes.
            const first = (e.currentTarget as HTMLElement).querySelector<HTMLElement>(
              "[data-first], input:not(:disabled), select:not(:disabled), textarea:not(:disabled)",
            );
            if (!first) return;
            e.preventDefault();
            first.focus();
          }}
          className="fixed inset-y-0 right-0 z-50 flex w-[460px] max-w-full flex-col border-l border-rule bg-raised shadow-2xl"
        >
          <div className="flex items-center justify-between border-b border-rule px-5 py-3">
            <Dialog.Title className="text-lg font-semibold">{title}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="rounded p-1.5 hover:bg-picked">
              <X size={18} />
            </Dialog.Close>
          </div>
          <div className="flex-1 overflow-y-auto px-5 py-4" tabIndex={0} role="group" aria-label={title}>
            {children}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
