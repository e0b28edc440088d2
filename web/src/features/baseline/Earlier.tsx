import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries, useKnowledge } from "../../api/queries";
import { datedDay } from "../../shared/format/days";
import { inside, t } from "../../shared/format/language";
import { say } from "../../shared/format/say";
import { useDesk } from "../lesson/LessonContext";

const SHOWN = ["path_deg", "face_deg", "strike_toe_mm"];

/** Earlier baselines of this student with the same club. */
export function Earlier() {
  const { lesson, units } = useDesk();
  const metrics = useKnowledge().metrics;
  const earlier = useQuery(queries.earlier(lesson.id)).data ?? [];
  if (earlier.length === 0) return null;
  return (
    <details>
      <summary className="min-h-8 cursor-pointer">
        {t("baseline-earlier-baselines-club", { n: earlier.length })}
      </summary>
      <ul className="mt-1 text-sm">
        {earlier.map((row) => (
          <li key={row.lesson_id} className="border-b border-rule py-1">
            <Link to={`/lessons/${row.lesson_id}/baseline`} className="underline underline-offset-4">
              {datedDay(row.day)}
            </Link>
            {t("baseline-balls", { balls: row.balls })}{" "}
            {SHOWN.flatMap((id) => {
              const metric = metrics.find((m) => m.id === id);
              const centre = row.centres[id];
              return metric && centre !== undefined ? [`${inside(metric.label)} ${say(metric, centre, units)}`] : [];
            }).join(", ")}
          </li>
        ))}
      </ul>
    </details>
  );
}
