import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useWaitingGrades } from "../../api/actions";
import { type Check, queries, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { worthOf } from "../../shared/format/worth";
import { Notice } from "../../shared/ui/Notice";
import { savedText } from "../../shared/ui/savedText";
import { useActions, useDesk, useWatch } from "../lesson/LessonContext";
import { Body } from "./Body";
import { ChecksToCome } from "./ChecksToCome";
import { CurrentCheck } from "./CurrentCheck";
import { Filmed } from "./Filmed";
import { Recorded } from "./Recorded";
import { Seen } from "./Seen";
import { StillSheet } from "./StillSheet";
import { useChecks } from "./useChecks";
import { useGradeKeys } from "./useGradeKeys";

/** Checks of the body, one key per answer; the most useful comes first. */
export function CheckStation() {
  const { lesson } = useDesk();
  const actions = useActions();
  const knowledge = useKnowledge();
  const grades = useQuery(queries.checks(lesson.id));
  const cause = useQuery(queries.cause(lesson.id));
  const stills = useQuery(queries.stills(lesson.id));
  const [measuring, measure] = useState<string | null>(null);
  const waiting = useWaitingGrades(lesson.id);
  const graded = useMemo(() => grades.data && { ...grades.data.grades, ...waiting }, [grades.data, waiting]);
  const ranking = cause.data;

  const gains = useMemo(() => new Map(ranking?.next_checks.map((c) => [c.id, c.gain_bits])), [ranking]);
  const checks = useChecks({
    checks: knowledge.checks,
    graded,
    next: ranking?.next_checks,
    // Without a connection the coach goes on in the order that is known.
    settled: Boolean(graded && ranking) && !cause.isFetching && (!actions.grade.isPending || waiting !== undefined),
  });
  const { current } = checks;
  const guide = stills.data?.guides.find((g) => g.check === current?.id);

  function grade(check: Check, value: string, source = "eye") {
    checks.graded(check.id, value);
    actions.grade.mutate({ [check.id]: value, source });
  }
  useGradeKeys(current, { grade, walk: checks.walk });
  const watch = useWatch();
  useEffect(() => watch(current?.id ?? null), [watch, current?.id]);

  if (cause.isError) return <Notice error={cause.error} />;
  if (!graded || !ranking) return null;
  return (
    <div className="mx-auto grid max-w-6xl gap-8 lg:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
      <section aria-live="polite">
        {current ? (
          <CurrentCheck
            key={current.id}
            check={current}
            grade={graded[current.id]}
            worth={worthOf(gains.get(current.id), Math.max(...gains.values(), 0.01))}
            onGrade={(g) => grade(current, g)}
            onMeasure={guide && (() => measure(current.id))}
          />
        ) : checks.left.length > 0 ? (
          <div className="min-h-104" /> // the order is being recomputed: which check comes first is not known yet
        ) : (
          <p className="text-xl">{t("check-every-check-answered")}</p>
        )}
        {waiting && (
          <p role="status" className="mb-3 text-soft">
            {savedText("offline")}
          </p>
        )}
        {actions.grade.isError && <Notice error={actions.grade.error} />}
        <Seen seen={grades.data?.seen ?? []} onOpen={checks.open} />
      </section>
      <div className="flex flex-col gap-6">
        <ChecksToCome
          checks={checks.left}
          current={current?.id}
          gains={gains}
          order={checks.order}
          onOrder={checks.reorder}
          onOpen={checks.open}
        />
        <Body />
        <Recorded graded={graded} />
        <Filmed graded={graded} />
      </div>
      {measuring && stills.data && (
        <StillSheet
          checkId={measuring}
          result={stills.data}
          onClose={() => measure(null)}
          onTake={(value) => {
            const check = knowledge.checks.find((c) => c.id === measuring);
            if (check) grade(check, value, "still");
            measure(null);
          }}
        />
      )}
    </div>
  );
}
