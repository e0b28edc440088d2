import { useQuery } from "@tanstack/react-query";

import { queries, useKnowledge } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";

const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });

/** The days to practise on, as planned from days, minutes, age, limits and kit; the rest are rest days. */
export function Schedule() {
  const { lesson } = useDesk();
  const stages = useKnowledge().words.stage ?? {};
  const told = useQuery(queries.schedule(lesson.id));
  if (told.isError) return <Notice error={told.error} />;
  if (!told.data || told.data.length === 0) return null;
  return (
    <>
      <table className="w-full text-left">
        <caption className="sr-only">Practice days</caption>
        <tbody>
          {told.data.map((session) => (
            <tr key={session.day} className="border-b border-rule align-top">
              <th scope="row" className="py-1 pr-4 font-semibold whitespace-nowrap">
                {DAY.format(new Date(session.day))}
              </th>
              <td className="py-1 pr-4 whitespace-nowrap">{session.minutes} min</td>
              <td className="py-1">
                {session.text} <span className="text-soft">{stages[session.stage]}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">The days between are rest days.</p>
      <a href={`/api/v1/lessons/${lesson.id}/schedule.ics`} className="no-print mt-1 inline-flex min-h-11 items-center underline underline-offset-4">
        For a calendar
      </a>
    </>
  );
}
