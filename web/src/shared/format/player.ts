import { t } from "./language";

type Student = { hand: string; handicap?: number | null };

/** `right-handed`, in the reader's language. */
export const handed = (hand: string): string => (hand === "left" ? t("common-left-handed") : t("common-right-handed"));

/** `right-handed, handicap 12`. */
export function sideAndHandicap({ hand, handicap }: Student): string {
  return handicap == null ? handed(hand) : t("common-handicap", { side: handed(hand), handicap });
}
