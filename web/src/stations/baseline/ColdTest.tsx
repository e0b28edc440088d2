import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { queries, useKnowledge } from "../../api/queries";
import { useDesk } from "../../lesson/LessonContext";

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });

/** The first balls of a later lesson, nothing said: how much of the last correction is still there. */
export function ColdTest() {
  const { lesson } = useDesk();
  const { causes, metrics } = useKnowledge();
  const test = useQuery(queries.coldTest(lesson.id)).data?.test;
  if (!test) return null;
  const { retention } = test;
  const label = causes.find((c) => c.id === test.fault)?.label.split(",")[0]?.toLowerCase();
  const metric = metrics.find((m) => m.id === test.primary)?.label.toLowerCase();
  const look = retention.relapse ? "border-plum bg-plum-ground" : retention.word === "kept" ? "border-moss bg-moss-ground" : "border-straw bg-straw-ground";
  return (
    <section aria-label="Cold test" className={`mb-4 border-l-4 px-4 py-2 ${look}`}>
      <h2 className="font-semibold">
        Cold test: {label}, {metric}, {test.days_ago} days after{" "}
        <Link to={`/lessons/${test.lesson_id}/prove`} className="underline underline-offset-4">
          {DAY.format(new Date(test.day))}
        </Link>
      </h2>
      <p role="status">{retention.sentence}</p>
      {test.inferred > 0 && (
        <p className="text-soft">
          The number is inferred from the flight, not measured, on {test.inferred} of {test.cold_balls} balls.
        </p>
      )}
      {test.cold_balls < 10 && <p className="text-soft">{test.cold_balls} of 10 balls. Say nothing yet.</p>}
    </section>
  );
}
