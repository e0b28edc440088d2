import { t } from "../../shared/format/language";
import type { FilmRow } from "./film";
import { rowName } from "./names";

const MAXIMUM = 12;

type Props = {
  rows: FilmRow[];
  moment: string;
  mirrored: boolean;
  now: number | undefined;
  dayOf: (row: FilmRow) => string;
  onChoose: (row: FilmRow) => void;
};

/** One moment of the newest films in a row, earliest left; press one to compare it. */
export function Strip({ rows, moment, mirrored, now, dayOf, onChoose }: Props) {
  return (
    <ul aria-label={t("films-same-moment-other-balls")} className="flex gap-2 overflow-x-auto pb-1">
      {rows
        .slice(0, MAXIMUM)
        .reverse()
        .map((row) => (
          <li key={row.id} className="w-36 shrink-0">
            <button
              type="button"
              aria-pressed={row.id === now}
              onClick={() => onChoose(row)}
              className="block w-full border-b-4 border-transparent text-left text-sm aria-pressed:border-clay"
            >
              <img
                src={`/api/v1/recordings/${row.id}/film/at/${moment}`}
                alt=""
                width={144}
                height={81}
                loading="lazy"
                className={`block aspect-video w-full bg-rule object-cover ${mirrored ? "-scale-x-100" : ""}`}
              />
              {rowName(row, dayOf(row))}
            </button>
          </li>
        ))}
    </ul>
  );
}
