import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

/** A dialog on a sheet; Escape and the cross close it, and whoever opened it by keys stands where they were. */
export function Modal({
  open,
  onClose,
  title,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}) {
  const opener = useRef<Element | null>(null);
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#10201c]/60" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            opener.current = document.activeElement;
          }}
          onCloseAutoFocus={(e) => {
            // Left alone it would look for a button of its own kind that opened it, and find none.
            e.preventDefault();
            // A valve of the drawn rig is SVG, and takes the focus as a button does.
            const from = opener.current;
            if ((from instanceof HTMLElement || from instanceof SVGElement) && from.isConnected) from.focus();
          }}
          className={`sheet fixed top-1/2 left-1/2 z-50 max-h-[94vh] w-[calc(100vw-24px)] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 ${wide ? "max-w-3xl" : "max-w-md"}`}
        >
          <div className="mb-3 flex items-start justify-between gap-2">
            <Dialog.Title className="text-order">{title}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="-mt-2 -mr-2 grid size-12 place-items-center">
              <X aria-hidden />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
