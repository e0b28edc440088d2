import { useQuery } from "@tanstack/react-query";
import { queries, useKnowledge } from "../../api/queries";
import { PlaneMap } from "../../shared/charts/Map";
import { dotsOf, type MetricName } from "../../shared/charts/pictures";
import { t, word } from "../../shared/format/language";
import type { Metric } from "../../shared/format/say";
import { useBalls, useChosen, useDesk } from "../lesson/LessonContext";
import { choose } from "../lesson/selection";
import { LowPointRuler } from "./LowPointRuler";
import { SpreadBands } from "./SpreadBands";
import { StartAndCurve } from "./StartAndCurve";

/** The block in pictures: start and curve, path and face, strike, low point, spread. */
export function BaselineCharts() {
  const { lesson, select, hand } = useDesk();
  const { shots, excluded } = useBalls();
  const { selection } = useChosen();
  const reading = useQuery(queries.reading(lesson.id, ""));
  const metrics = useKnowledge().metrics;
  if (!reading.data) return null;
  const data = reading.data;
  const order = shots.map((s) => s.id);
  const named = (id: MetricName) => metrics.find((m) => m.id === id) as Metric;
  const dots = (x: MetricName, y: MetricName) => dotsOf(data, shots, named(x), named(y), hand, excluded, selection.ids);
  const ellipse = (x: string) => data.reading.ellipses.find((e) => e.x === x);
  const pick = (id: number) => select(choose(selection, id, order, false, false));
  return (
    <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2 lg:@max-[70rem]:gap-x-4 lg:@max-[62rem]:max-w-md lg:@max-[62rem]:grid-cols-1">
      <StartAndCurve balls={data.ball_ids} onChoose={pick} />
      <PlaneMap
        title={t("baseline-path-face")}
        x={{ label: t("common-path"), plus: t("common-out"), minus: t("common-out-2"), half: 12, unit: "°" }}
        y={{ label: t("baseline-face-2"), plus: t("common-open-2"), minus: t("common-closed-2"), half: 10, unit: "°" }}
        dots={dots("path_deg", "face_deg")}
        ellipse={ellipse("path_deg")}
        onChoose={pick}
        ground={(x, y) => (
          <>
            {/* On this line the face points along the path: no curve from it. */}
            <path
              d={`M${x(-10)} ${y(-10)}L${x(10)} ${y(10)}`}
              className="stroke-straw"
              strokeWidth="2"
              strokeDasharray="5 4"
            />
            <g className="fill-soft text-[12px]" textAnchor="middle">
              {REGIONS.map(([region, at, to]) => (
                <text key={region} x={x(at)} y={y(to)}>
                  {word(region)}
                </text>
              ))}
            </g>
          </>
        )}
      />
      <PlaneMap
        title={t("baseline-strike-face")}
        x={{ label: t("baseline-toe-2"), plus: t("baseline-toe-3"), minus: t("baseline-heel-2"), half: 32, unit: "mm" }}
        y={{
          label: t("baseline-high-2"),
          plus: t("baseline-high-3"),
          minus: t("baseline-low-2"),
          half: 24,
          unit: "mm",
        }}
        dots={dots("strike_toe_mm", "strike_high_mm")}
        ellipse={ellipse("strike_toe_mm")}
        onChoose={pick}
        ground={(x, y) => (
          <path
            d={`M${x(-27)} ${y(-15)}L${x(-27)} ${y(2)}Q${x(-26)} ${y(5)} ${x(-22)} ${y(7)}L${x(22)} ${y(21)}Q${x(28)} ${y(22)} ${x(28)} ${y(12)}L${x(28)} ${y(-12)}Q${x(27)} ${y(-17)} ${x(20)} ${y(-17)}L${x(-24)} ${y(-17)}Q${x(-27)} ${y(-17)} ${x(-27)} ${y(-15)}Z`}
            className="fill-moss-ground stroke-rule"
          />
        )}
      />
      <div className="flex flex-col gap-4">
        <LowPointRuler data={data} onChoose={pick} />
        <SpreadBands reading={data.reading} />
      </div>
    </div>
  );
}

/** Labels of the plane: face to target and face to path. */
const REGIONS: [string, number, number][] = [
  ["pull-fade", -9, -2],
  ["push-fade", -3, 8.4],
  ["push", 10.6, 7.6],
  ["push-draw", 9, 2],
  ["pull-draw", 5, -8.8],
  ["pull", -9.6, -6.8],
];
