import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet over the screen for one small job; Escape and a tap outside close it. */
export const Sheet = ({
  open,
  onClose,
  title,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
}) => (
  <Dialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
      <Dialog.Content
        aria-describedby={undefined}
        className="fixed inset-x-0 bottom-0 z-50 max-h-[90dvh] overflow-auto border-t-4 border-green bg-paper p-5 shadow-2xl sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-16 sm:w-[520px] sm:-translate-x-1/2 sm:border-4"
      >
        <div className="mb-3 flex items-start justify-between gap-4">
          <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
          <Dialog.Close
            aria-label="Close"
            className="-mr-2 -mt-2 flex size-11 items-center justify-center rounded hover:bg-green-soft"
          >
            <X aria-hidden size={22} />
          </Dialog.Close>
        </div>
        {children}
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
