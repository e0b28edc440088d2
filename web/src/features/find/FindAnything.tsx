import { useState } from "react";
import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { KeyCap } from "../../shared/ui/Button";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { FindSheet } from "./FindSheet";

/** The search by its key from anywhere, and, where there is room, by a button. */
export function FindAnything({ button }: { button: boolean }) {
  const [open, setOpen] = useState(false);
  useWindowKeys((event) => {
    if (event.key !== KEYS.find || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    event.preventDefault();
    setOpen(true);
  });
  return (
    <>
      {button && (
        <button
          type="button"
          onClick={() => setOpen(true)}
          className="flex min-h-11 items-center gap-2 rounded-sm px-3 text-sm text-soft underline-offset-4 hover:underline max-lg:px-2"
        >
          {t("Find")} <KeyCap>{KEYS.find}</KeyCap>
        </button>
      )}
      {open && <FindSheet onClose={() => setOpen(false)} />}
    </>
  );
}
