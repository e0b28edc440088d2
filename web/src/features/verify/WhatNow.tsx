import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries, useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { chance } from "../../shared/format/say";
import { Callout } from "../../shared/ui/Callout";
import { useDesk } from "../lesson/LessonContext";

const WORTH_CHECKING = 0.08;

/** No active correction: at first, or after one that was not supported. */
export function WhatNow() {
  const { lesson } = useDesk();
  const { causes } = useKnowledge();
  const choices = useQuery(queries.corrections(lesson.id));
  const cause = useQuery(queries.cause(lesson.id));
  if (!choices.data || !cause.data) return null;
  const failed = choices.data.tried.findLast((t) => t.outcome === "not-supported");
  const label = (id: string) => causes.find((c) => c.id === id)?.label.split(",")[0] ?? id;
  const correct = `/lessons/${lesson.id}/correct`;
  if (!failed) {
    return (
      <p className="mx-auto max-w-prose text-lg">
        {t("prove-nothing-being-corrected-yet")}{" "}
        <Link to={correct} className="underline underline-offset-4">
          {t("prove-pick-one-correction")}
        </Link>{" "}
        {t("prove-gate-appears-here")}
      </p>
    );
  }
  const rows = [...cause.data.faults, ...cause.data.partners];
  const now = rows.find((r) => r.id === failed.fault);
  const next = choices.data.candidates.find((c) => c.id !== failed.fault);
  const [check] = cause.data.next_checks;
  return (
    <section
      aria-label={t("prove-after-correction-not-supported")}
      className="mx-auto flex max-w-3xl flex-col gap-3 text-lg"
    >
      <h2 className="text-2xl font-bold">{t("prove-not-supported", { label: label(failed.fault) })}</h2>
      <p>
        {t("prove-student-made-move-but-balls", {
          before: failed.probability_then === null ? t("prove-unknown-probability") : chance(failed.probability_then),
          now: now ? chance(now.probability) : t("common-nothing"),
          word: now?.word,
        })}
      </p>
      {next && (
        <Callout tone="clay">
          <Link to={correct} className="font-semibold underline underline-offset-4">
            {t("prove-next-correction", { label: inside(next.label) })}
          </Link>
          . {next.reason}
        </Callout>
      )}
      {check && check.gain_bits >= WORTH_CHECKING && (
        <Callout tone="moss">
          <Link to={`/lessons/${lesson.id}/check`} className="font-semibold underline underline-offset-4">
            {t("prove-answer-deciding-check", { label: inside(check.label) })}
          </Link>
          . {check.question}
        </Callout>
      )}
    </section>
  );
}
