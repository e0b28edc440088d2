import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { KeyCap } from "../../shared/ui/Button";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { FindSheet } from "./FindSheet";

type Props = { open: boolean; onOpen: (open: boolean) => void; button: boolean };

/** The search by key from anywhere, and by a button where the page has none. */
export function FindAnything({ open, onOpen, button }: Props) {
  useWindowKeys((event) => {
    if (event.key !== KEYS.find || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    event.preventDefault();
    onOpen(true);
  });
  return (
    <>
      {button && (
        <button
          type="button"
          onClick={() => onOpen(true)}
          className="flex min-h-11 items-center gap-2 rounded-sm px-3 text-sm text-soft underline-offset-4 hover:underline max-lg:px-1.5"
        >
          {t("common-search")}{" "}
          <span className="max-lg:hidden">
            <KeyCap>{KEYS.find}</KeyCap>
          </span>
        </button>
      )}
      {open && <FindSheet onClose={() => onOpen(false)} />}
    </>
  );
}
