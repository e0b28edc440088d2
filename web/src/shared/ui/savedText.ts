import { t } from "../format/language";
import type { SaveState } from "./autosave";

/** Return what a form that saves automatically says about its last change. */
export function savedText(state: SaveState, untouched = t("Changes are saved automatically.")): string {
  switch (state) {
    case "saving":
      return t("Saving…");
    case "saved":
      return t("Saved");
    case "offline":
      return t("Offline. Your changes will be saved when the connection is back.");
    case "refused":
      return t("Not saved");
    default:
      return untouched;
  }
}
