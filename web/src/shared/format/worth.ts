import { t } from "./language";
/** Say how useful a check is compared with the most useful one. */
export function worthOf(gain: number | undefined, most: number): string {
  if (gain === undefined || gain < 0.01) return t("common-less-useful");
  const share = gain / Math.max(most, 0.01);
  return share > 0.85 ? t("common-most-useful") : share > 0.4 ? t("common-useful") : t("common-less-useful");
}
