import { t } from "./language";
/** How much a look tells, in words, against the one that tells most. */
export function worthOf(gain: number | undefined, most: number): string {
  if (gain === undefined || gain < 0.01) return t("tells little now");
  const share = gain / Math.max(most, 0.01);
  return share > 0.85 ? t("tells most now") : share > 0.4 ? t("tells something") : t("tells little now");
}
