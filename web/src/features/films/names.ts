import { t, word } from "../../shared/format/language";
import type { FilmRow } from "./film";

/** Return the label of a film in a list. */
export function rowName(row: FilmRow, day: string): string {
  const parts = [row.ball === null ? row.name : t("common-ball-2", { number: row.ball })];
  if (row.purpose) parts.push(word(row.movement || row.purpose));
  return [...parts, day].join(", ");
}
