import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { inUnits } from "../../shared/format/units";
import { useDesk } from "../lesson/LessonContext";

const SHOWN = ["path_deg", "face_deg", "attack_deg", "strike_toe_mm", "strike_high_mm"];
const MAXIMUM = 2.6; // times the usual spread at the end of a band

/** How much the balls vary, compared with the usual at this level. */
export function SpreadBands({ reading }: { reading: Schemas["BlockReading"] }) {
  const metrics = useKnowledge().metrics;
  const { units } = useDesk();
  const rows = SHOWN.flatMap((id) => {
    const read = reading.metrics[id];
    const metric = metrics.find((m) => m.id === id);
    return read && metric && read.spread !== null && read.usual
      ? [{ metric, spread: read.spread ?? 0, usual: read.usual, inferred: read.origin === "inferred" }]
      : [];
  });
  if (rows.length === 0) return null;
  return (
    <figure className="m-0">
      <figcaption className="mb-1 font-semibold">{t("baseline-spread")}</figcaption>
      <ul className="grid gap-1.5">
        {rows.map(({ metric, spread, usual, inferred }) => {
          const ratio = spread / usual;
          const word = ratio < 0.75 ? t("baseline-tight-2") : ratio > 1.4 ? t("baseline-wide-2") : t("baseline-usual");
          const text = t("baseline-varies-usual", {
            label: metric.label,
            spread: inUnits(spread, metric.unit, units),
            usual: inUnits(usual, metric.unit, units),
          });
          return (
            <li key={metric.id} className="grid grid-cols-[6.5rem_1fr_6.5rem] items-center gap-2 text-sm">
              <span>{metric.label}</span>
              <svg
                viewBox="0 0 100 14"
                preserveAspectRatio="none"
                className="h-3.5 w-full"
                role="img"
                aria-label={text}
              >
                <rect x={50 - 50 / MAXIMUM} width={100 / MAXIMUM} height="14" className="fill-moss-ground" />
                <rect
                  x={50 - (50 * Math.min(ratio, MAXIMUM)) / MAXIMUM}
                  y="4"
                  width={(100 * Math.min(ratio, MAXIMUM)) / MAXIMUM}
                  height="6"
                  className={inferred ? "fill-none stroke-slate" : "fill-slate"}
                  strokeDasharray={inferred ? "3 2" : undefined}
                />
                <path d="M50 0V14" className="stroke-sheet" />
              </svg>
              <span className="text-soft">
                {inUnits(spread, metric.unit, units)}, <b className={ratio > 1.4 ? "text-clay" : "text-ink"}>{word}</b>
              </span>
            </li>
          );
        })}
      </ul>
    </figure>
  );
}
