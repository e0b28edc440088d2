import { t } from "../format/language";
import type { SaveState } from "./autosave";

/** Return what a form that saves automatically says about its last change. */
export function savedText(state: SaveState, untouched = t("common-changes-saved-automatically")): string {
  switch (state) {
    case "saving":
      return t("common-saving");
    case "saved":
      return t("common-saved");
    case "offline":
      return t("common-offline-changes-will-saved-when");
    case "refused":
      return t("common-not-saved");
    default:
      return untouched;
  }
}
