import { t } from "../../shared/format/language";
import type { FilmRow } from "./film";

/** Return the label of a film in a list. */
export function rowName(row: FilmRow, day: string): string {
  const parts = [row.ball === null ? row.name : t("Ball {number}", { number: row.ball })];
  if (row.purpose) parts.push(row.movement ? t(row.movement) : t(row.purpose));
  return [...parts, day].join(", ");
}
