import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import { dayWords } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { useDesk } from "../lesson/LessonContext";
import { BodySheet } from "./BodySheet";

/** Body screen: results, what they mean for the swing, and a link to the tests. */
export function Body() {
  const { lesson } = useDesk();
  const result = useQuery(queries.body(lesson.id));
  const [testing, test] = useState(false);
  if (!result.data) return null;
  const { results, says } = result.data;
  const newest = results
    .map((r) => r.day)
    .sort()
    .at(-1);
  return (
    <section aria-label={t("check-body-screen")}>
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-semibold">{t("check-body-screen")}</h3>
        <Button onClick={() => test(true)}>
          {results.length ? t("check-test-again") : t("check-start-body-screen")}
        </Button>
      </div>
      {says.map((text) => (
        <p key={text} className="mt-1">
          {text}
        </p>
      ))}
      <p className="mt-1 text-soft">
        {newest === undefined
          ? t("check-five-short-tests-show-how")
          : says.length === 0
            ? t("check-no-limits-found", { day: dayWords(newest) })
            : t("check-last-tested", { day: dayWords(newest) })}
      </p>
      {testing && <BodySheet result={result.data} onClose={() => test(false)} />}
    </section>
  );
}
