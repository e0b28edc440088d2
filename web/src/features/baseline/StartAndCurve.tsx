import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { queries } from "../../api/queries";
import { AsTable } from "../../shared/charts/AsTable";
import { flightPath, outlineOf, roundReach } from "../../shared/charts/pictures";
import { fixed, t } from "../../shared/format/language";
import { distance } from "../../shared/format/units";
import { useBalls, useChosen, useDesk } from "../lesson/LessonContext";

const SIZE = { width: 340, height: 226, left: 12, right: 12, top: 22, bottom: 34 };
const WIDTHS = [15, 25, 40, 60, 90, 150];

/** Every ball's path over the ground, seen from behind. */
export function StartAndCurve({ balls, onChoose }: { balls: number[]; onChoose: (id: number) => void }) {
  const { lesson, units, hand } = useDesk();
  const { shots, excluded } = useBalls();
  const { selection } = useChosen();
  const ellipse = useQuery(queries.reading(lesson.id, "")).data?.reading.ellipses.find((e) => e.x === "side_m");
  const known = new Set(balls);
  const paths = shots
    .filter((s) => known.has(s.id))
    .flatMap((shot) => {
      const path = flightPath(shot);
      return path ? [{ shot, path }] : [];
    });
  if (paths.length === 0) return <NoFlight />;
  const reach = roundReach(
    paths.flatMap(({ path }) => [path.end[0], path.control[0]]),
    WIDTHS,
  );
  const far = Math.max(...paths.map(({ path }) => path.end[1])) * 1.06;
  const x = scaleLinear([-reach, reach], [SIZE.left, SIZE.width - SIZE.right]).clamp(true);
  const y = scaleLinear([0, far], [SIZE.height - SIZE.bottom, SIZE.top]);
  const mirrored = hand === "left" ? -1 : 1;
  return (
    <figure className="m-0">
      <figcaption className="mb-1 font-semibold">{t("baseline-start-curve")}</figcaption>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full"
        role="img"
        aria-label={t("baseline-start-curve-balls-seen-behind", { n: paths.length })}
      >
        <rect
          x={SIZE.left}
          y={SIZE.top}
          width={SIZE.width - SIZE.left - SIZE.right}
          height={SIZE.height - SIZE.top - SIZE.bottom}
          className="fill-sheet stroke-rule"
        />
        <path d={`M${x(0)} ${y(0)}V${SIZE.top}`} className="stroke-straw" strokeWidth="2" strokeDasharray="5 4" />
        {ellipse && (
          <path
            d={`M${outlineOf(ellipse)
              .map(([a, b]) => `${x(mirrored * a)} ${y(Math.min(b, far))}`)
              .join("L")}Z`}
            className="fill-moss/10 stroke-moss"
            strokeDasharray="2 3"
          />
        )}
        {paths.map(({ shot, path }) => {
          const chosen = selection.ids.has(shot.id);
          const aside = excluded.has(shot.id);
          const message = `${aside ? t("common-excluded") : ""}${path.started ? "" : t("baseline-start-not-measured")}`;
          return (
            <g key={shot.id} onClick={() => onChoose(shot.id)} className="cursor-pointer">
              <title>{t("baseline-ball-2", { number: shot.number, message })}</title>
              <path
                d={`M${x(0)} ${y(0)}Q${x(path.control[0])} ${y(path.control[1])} ${x(path.end[0])} ${y(path.end[1])}`}
                className={`fill-none ${chosen ? "stroke-clay" : aside ? "stroke-soft" : "stroke-moss"}`}
                strokeWidth={chosen ? 2.6 : 1.2}
                strokeOpacity={chosen ? 1 : 0.6}
                strokeDasharray={aside ? "3 3" : path.started ? undefined : "1 4"}
              />
              {aside ? (
                <path
                  d={`M${x(path.end[0]) - 3.5} ${y(path.end[1]) - 3.5}l7 7m0-7l-7 7`}
                  className="stroke-soft"
                  strokeWidth="1.5"
                />
              ) : (
                <circle
                  cx={x(path.end[0])}
                  cy={y(path.end[1])}
                  r={chosen ? 5.5 : 3.8}
                  className={chosen ? "fill-clay stroke-ink" : "fill-moss stroke-sheet"}
                />
              )}
            </g>
          );
        })}
        <g className="fill-soft text-[12px]">
          <text x={SIZE.left} y={SIZE.height - 6}>
            {t("baseline-left", { distance: distance(reach, units) })}
          </text>
          <text x={x(0)} y={SIZE.height - 20} textAnchor="middle">
            {t("common-ball-4")}
          </text>
          <text x={SIZE.width - SIZE.right} y={SIZE.height - 6} textAnchor="end">
            {t("baseline-right", { distance: distance(reach, units) })}
          </text>
          <text x={SIZE.left} y={SIZE.top - 7}>
            {distance(far, units)}
          </text>
        </g>
      </svg>
      <p className="text-sm text-soft">
        {paths.every(({ path }) => path.started)
          ? t("baseline-measured-start-landing-point-not")
          : t("baseline-dotted-start-not-measured-curve")}
      </p>
      <AsTable
        titles={[t("common-ball"), t("baseline-start"), t("baseline-distance-offline"), t("common-carry")]}
        rows={paths.map(({ shot }) => ({
          id: shot.id,
          cells: [
            shot.number,
            shot.launch_direction_deg !== null && fixed(shot.launch_direction_deg, 1),
            shot.side_m !== null &&
              `${distance(Math.abs(shot.side_m), units)} ${shot.side_m < 0 ? t("common-left-2") : t("common-right-2")}`,
            shot.carry_m !== null && distance(shot.carry_m, units),
          ],
        }))}
      />
    </figure>
  );
}

function NoFlight() {
  return (
    <figure className="m-0">
      <figcaption className="mb-1 font-semibold">{t("baseline-start-curve")}</figcaption>
      <p className="text-soft">{t("baseline-monitor-gave-no-carry-side")}</p>
    </figure>
  );
}
