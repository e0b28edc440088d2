import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

type Props = { title: string; told?: string; open: boolean; wide?: boolean; onClose: () => void; children: ReactNode };

/** A sheet over the page; Escape or a touch beside it closes it, the page behind goes on living. */
export function Sheet({ title, told, open, wide = false, onClose, children }: Props) {
  const described = told ? {} : { "aria-describedby": undefined };
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30" />
        <Dialog.Content
          {...described}
          className={`${wide ? "w-[min(96vw,1040px)]" : "w-[min(94vw,580px)]"} fixed top-1/2 left-1/2 max-h-[94vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-6`}
        >
          <Dialog.Title className="mb-3 text-xl font-bold">{title}</Dialog.Title>
          {told && <Dialog.Description className="mb-3 text-soft">{told}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
