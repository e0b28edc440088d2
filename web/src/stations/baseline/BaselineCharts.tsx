import { useQuery } from "@tanstack/react-query";

import { queries, type Shot, useKnowledge } from "../../api/queries";
import { golferValue } from "../../domain/say";
import { choose } from "../../domain/selection";
import { type Dot, PlaneMap } from "../../kit/charts/Map";
import { useDesk } from "../../lesson/LessonContext";

type Name = "path_deg" | "face_deg" | "strike_toe_mm" | "strike_high_mm";

/** Path against face, and where on the face it was hit; both follow the tape. */
export function BaselineCharts() {
  const { lesson, shots, selection, select, apart, hand } = useDesk();
  const reading = useQuery(queries.reading(lesson.id, ""));
  const metrics = useKnowledge().metrics;
  const baseline = new Set(reading.data?.ball_ids);
  const order = shots.map((s) => s.id);

  function dots(x: Name, y: Name): Dot[] {
    const value = (shot: Shot, name: Name) =>
      golferValue(
        metrics.find((m) => m.id === name),
        shot[name] as number,
        hand,
      );
    return shots
      .filter((s) => baseline.has(s.id) && s[x] !== null && s[y] !== null)
      .map((s) => ({ id: s.id, x: value(s, x), y: value(s, y), apart: apart.has(s.id), chosen: selection.ids.has(s.id) }));
  }

  const pick = (id: number) => select(choose(selection, id, order, false, false));
  return (
    <div className="grid gap-6 sm:grid-cols-2">
      <PlaneMap
        title="Path and face"
        x={{ label: "Path", plus: "in-to-out", minus: "out-to-in", half: 12, unit: "°" }}
        y={{ label: "Face", plus: "open", minus: "closed", half: 10, unit: "°" }}
        dots={dots("path_deg", "face_deg")}
        onChoose={pick}
        ground={(x, y) => (
          <>
            {/* On this line the face looks along the path: no curve from it. */}
            <path d={`M${x(-10)} ${y(-10)}L${x(10)} ${y(10)}`} className="stroke-straw" strokeWidth="2" strokeDasharray="5 4" />
            <g className="fill-soft text-[13px]" textAnchor="middle">
              <text x={x(-7)} y={y(7)}>
                slice
              </text>
              <text x={x(7)} y={y(-7)}>
                hook
              </text>
              <text x={x(10)} y={y(5.6)}>
                block
              </text>
              <text x={x(-10)} y={y(-6.4)}>
                pull
              </text>
            </g>
          </>
        )}
      />
      <PlaneMap
        title="Strike on the face"
        x={{ label: "Toe", plus: "toe", minus: "heel", half: 32, unit: "mm" }}
        y={{ label: "High", plus: "high", minus: "low", half: 24, unit: "mm" }}
        dots={dots("strike_toe_mm", "strike_high_mm")}
        onChoose={pick}
        ground={(x, y) => (
          <path
            d={`M${x(-27)} ${y(-15)}L${x(-27)} ${y(2)}Q${x(-26)} ${y(5)} ${x(-22)} ${y(7)}L${x(22)} ${y(21)}Q${x(28)} ${y(22)} ${x(28)} ${y(12)}L${x(28)} ${y(-12)}Q${x(27)} ${y(-17)} ${x(20)} ${y(-17)}L${x(-24)} ${y(-17)}Q${x(-27)} ${y(-17)} ${x(-27)} ${y(-15)}Z`}
            className="fill-moss-ground stroke-rule"
          />
        )}
      />
    </div>
  );
}
