import { t } from "./language";
/** How much a look tells, in words, against the one that tells most. */
export function worthOf(gain: number | undefined, most: number): string {
  if (gain === undefined || gain < 0.01) return t("Less useful");
  const share = gain / Math.max(most, 0.01);
  return share > 0.85 ? t("Most useful") : share > 0.4 ? t("Useful") : t("Less useful");
}
