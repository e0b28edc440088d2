import { useQuery } from "@tanstack/react-query";
import { queries, type Ranking, useKnowledge } from "../../api/queries";
import { SwingFigure } from "../../shared/charts/SwingFigure";
import { Ways } from "../../shared/charts/Ways";
import { inside, quoted, t } from "../../shared/format/language";
import { capital, chance, hyphens, signed } from "../../shared/format/say";
import { Details } from "../../shared/ui/Details";
import { Meter } from "../../shared/ui/Meter";
import { useDesk } from "../lesson/LessonContext";

export type CauseRow = Ranking["faults"][number];

/** One cause in full: evidence for and against, its effect on the ball, where it comes from, what rules it out. */
export function FaultOpened({ row, ranking }: { row: CauseRow; ranking: Ranking }) {
  const knowledge = useKnowledge();
  const label = (id: string) => knowledge.causes.find((c) => c.id === id)?.label.split(",")[0] ?? id;
  const before = ranking.chain.filter(([, to]) => to === row.id).map(([from]) => label(from as string));
  const after = ranking.chain.filter(([from]) => from === row.id).map(([, to]) => label(to as string));
  const supporting = row.evidence.filter((e) => e.log_odds > 0);
  const opposing = row.evidence.filter((e) => e.log_odds < 0);
  return (
    <section aria-label={row.label} className="grid content-start gap-4">
      <div>
        <h3 className="text-xl font-bold">
          {row.label}
          {row.variant && <span className="font-normal">, {hyphens(row.variant)}</span>}
        </h3>
        <p>{row.happens}</p>
        <p className="mt-1 text-soft">
          {t("{word}, probability {chance}.", { word: capital(row.word), chance: chance(row.probability) })}
          {row.moment && t(" Moment: {moment}.", { moment: row.moment })}
          {before.length > 0 && t(" May come from {before}.", { before: inside(before.join(", ")) })}
          {after.length > 0 && t(" May lead to {after}.", { after: inside(after.join(", ")) })}
        </p>
      </div>
      <WhatItDoes row={row} />
      <Details
        summary={t("Evidence: {supporting} for, {opposing} against", {
          supporting: supporting.length,
          opposing: opposing.length,
        })}
      >
        <Alone row={row} />
        <div className="mt-4 grid gap-4 sm:grid-cols-2">
          <EvidenceList title={t("Evidence for")} items={supporting} empty={t("No evidence for it.")} />
          <EvidenceList title={t("Evidence against")} items={opposing} empty={t("No evidence against it.")} />
        </div>
      </Details>
    </section>
  );
}

/** What numbers and checks say separately and together; a cause with only one kind deserves another look. */
function Alone({ row }: { row: CauseRow }) {
  const parts: [string, number | null | undefined][] = [
    [t("Numbers only"), row.numbers_alone],
    [t("Checks only"), row.looks_alone],
    [t("Both"), row.probability],
  ];
  return (
    <dl className="grid max-w-md grid-cols-[auto_1fr_auto] items-center gap-x-4 gap-y-1">
      {parts.map(([name, share]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          {typeof share === "number" ? (
            <>
              <dd>
                <Meter share={share} label={`${name} ${chance(share)}`} tone="slate" />
              </dd>
              <dd>{chance(share)}</dd>
            </>
          ) : (
            <dd className="col-span-2 text-soft">{t("none yet")}</dd>
          )}
        </div>
      ))}
    </dl>
  );
}

function EvidenceList({ title, items, empty }: { title: string; items: CauseRow["evidence"]; empty: string }) {
  return (
    <div>
      <h4 className="font-semibold">{title}</h4>
      {items.length === 0 && <p className="text-soft">{empty}</p>}
      <ul>
        {items.slice(0, 6).map((e) => (
          <li key={`${e.kind}${e.id}`} className="flex justify-between gap-3 border-b border-rule py-0.5">
            <span>{e.text}</span>
            <span className="text-soft" title={t("change of the log-odds")}>
              {signed(e.log_odds)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The fault alone, at usual severity: drawn, flown, with checks that would show or refute it. */
function WhatItDoes({ row }: { row: CauseRow }) {
  const { lesson, hand } = useDesk();
  const knowledge = useKnowledge();
  const told = useQuery(queries.faultBall(lesson.id, row.id, row.variant ?? ""));
  const sign = told.data?.shown_by[0];
  const drawn = useQuery({ ...queries.figure(sign?.[0] ?? "", hand), enabled: Boolean(sign), retry: false });
  if (!told.data) return null;
  const { before, after, reason } = told.data.ball;
  const figures = drawn.data?.grades.filter((g) => g.sound || g.grade === sign?.[1]);
  const refuting = told.data.refuted_by
    .slice(0, 3)
    .map(([look, grade]) => `${lookLabel(look)} ${quoted(hyphens(grade))}`);

  function lookLabel(id: string): string {
    const look = knowledge.checks.find((c) => c.id === id);
    return look ? inside(look.label) : hyphens(id);
  }
  return (
    <div>
      <h4 className="font-semibold">{t("What this fault alone does to the ball")}</h4>
      <div className="mt-2 grid max-w-3xl grid-cols-[1fr_2fr] items-center gap-3">
        <div className="flex">
          {drawn.data &&
            figures?.map((g) => (
              <SwingFigure
                key={g.grade}
                picture={drawn.data}
                grade={g}
                title={hyphens(g.grade)}
                className="h-36 min-w-0 flex-1"
              />
            ))}
        </div>
        <Ways before={before} after={after} hand={hand} />
      </div>
      {refuting.length > 0 && (
        <p className="mt-2">
          <span className="font-semibold">{t("You'd rule it out if you saw")}</span> {refuting.join(t(", or by "))}.
        </p>
      )}
      <Details summary={t("Numbers of this model")}>
        <p>{t("Model of this fault alone. {reason}", { reason })}</p>
      </Details>
    </div>
  );
}
