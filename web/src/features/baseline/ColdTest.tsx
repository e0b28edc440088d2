import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { dayWords } from "../../shared/format/days";
import { inside, t } from "../../shared/format/language";
import { Callout } from "../../shared/ui/Callout";
import { useDesk } from "../lesson/LessonContext";

const WHERE: Record<string, string> = {
  "more-balls": "",
  "change-correction": "cause",
  "next-fault": "check",
  transfer: "",
};

/** The start of a later lesson: cold test, practice, and today's plan. */
export function ColdTest() {
  const { lesson } = useDesk();
  const result = useQuery(queries.coldTest(lesson.id)).data;
  if (!result?.test) return null;
  const { retention } = result.test;
  const tone = retention.relapse ? "plum" : retention.word === "kept" ? "moss" : "straw";
  return (
    <Callout
      as="section"
      tone={tone}
      aria-label={t("baseline-cold-test")}
      className="grid gap-x-8 gap-y-2 md:grid-cols-2 lg:col-span-2"
    >
      <Saved test={result.test} dose={result.dose} transfers={result.transfers} />
      <div>
        <h3 className="font-semibold">{t("common-today")}</h3>
        <ol>
          {result.proposals.map((step, i) => (
            <li key={step.headline} className={i === 0 ? "text-lg" : "text-soft"}>
              <Step step={step} lessonId={lesson.id} first={i === 0} />
            </li>
          ))}
        </ol>
      </div>
    </Callout>
  );
}

type Today = Schemas["Today"];

function Saved({
  test,
  dose,
  transfers,
}: {
  test: NonNullable<Today["test"]>;
  dose: Today["dose"];
  transfers: Today["transfers"];
}) {
  const { causes, metrics } = useKnowledge();
  const label = inside(causes.find((c) => c.id === test.fault)?.label.split(",")[0] ?? "");
  const metric = inside(metrics.find((m) => m.id === test.primary)?.label ?? "");
  return (
    <div>
      <h2 className="font-semibold">
        {t("baseline-cold-test-days-after", { label, metric, days_ago: test.days_ago })}{" "}
        <Link to={`/lessons/${test.lesson_id}/prove`} className="underline underline-offset-4">
          {dayWords(test.day)}
        </Link>
      </h2>
      <p role="status">{test.retention.sentence}</p>
      {test.inferred > 0 && (
        <p className="text-soft">
          {t("baseline-balls-number-inferred-flight-not", {
            inferred: test.inferred,
            cold_balls: test.cold_balls,
          })}
        </p>
      )}
      {test.cold_balls < 10 && (
        <p className="text-soft">{t("baseline-10-balls-say-nothing-yet", { cold_balls: test.cold_balls })}</p>
      )}
      {dose && dose.planned > 0 && (
        <p>
          {t("common-practiced-days", { days: dose.days, planned: dose.planned })}
          {dose.repetitions > 0 && t("common-repetitions-felt", { felt: dose.felt, repetitions: dose.repetitions })}.
        </p>
      )}
      {transfers.map(({ club, label: name, transfer }) => (
        <p key={club}>
          {name}: {transfer.sentence}
        </p>
      ))}
    </div>
  );
}

function wishOf({ fault, drill, stage }: Schemas["NextStep"]): string {
  const result = Object.entries({ fault, drill, stage }).filter((pair): pair is [string, string] => Boolean(pair[1]));
  return new URLSearchParams(result).toString();
}

function Step({ step, lessonId, first }: { step: Schemas["NextStep"]; lessonId: number; first: boolean }) {
  const where = WHERE[step.kind] ?? `correct?${wishOf(step)}`;
  return (
    <>
      {where ? (
        <Link
          to={`/lessons/${lessonId}/${where}`}
          className={`inline-flex min-h-11 items-center underline underline-offset-4 ${first ? "font-semibold" : ""}`}
        >
          {step.headline}
        </Link>
      ) : (
        <span className={`inline-flex min-h-11 items-center ${first ? "font-semibold" : ""}`}>{step.headline}</span>
      )}
      {first && <span className="block text-base">{step.reason}</span>}
    </>
  );
}
