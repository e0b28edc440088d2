import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

type Props = {
  title: string;
  result?: string;
  open: boolean;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
};

/** The second click of a double click on the button that opens a sheet falls beside it and must not close it. */
const DOUBLE_CLICK_MS = 500;

/** A sheet over the page; Escape or a click beside it closes it, and the page behind stays live. */
export function Sheet({ title, result, open, wide = false, onClose, children }: Props) {
  const openedAt = useRef(0);
  const described = result ? {} : { "aria-describedby": undefined };
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30" />
        <Dialog.Content
          {...described}
          onOpenAutoFocus={() => {
            openedAt.current = performance.now();
          }}
          onPointerDownOutside={(event) => {
            if (performance.now() - openedAt.current < DOUBLE_CLICK_MS) event.preventDefault();
          }}
          className={`${wide ? "w-[min(96vw,1040px)]" : "w-[min(94vw,580px)]"} fixed top-1/2 left-1/2 max-h-[94vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-6`}
        >
          <Dialog.Title className="mb-3 text-xl font-bold">{title}</Dialog.Title>
          {result && <Dialog.Description className="mb-3 text-soft">{result}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
