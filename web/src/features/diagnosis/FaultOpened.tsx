import { useQuery } from "@tanstack/react-query";
import { queries, type Ranking, useKnowledge } from "../../api/queries";
import { FlightPaths } from "../../shared/charts/FlightPaths";
import { SwingFigure } from "../../shared/charts/SwingFigure";
import { inside, quoted, t, word } from "../../shared/format/language";
import { capital, chance, signed } from "../../shared/format/say";
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
          {row.variant && <span className="font-normal">, {word(row.variant)}</span>}
        </h3>
        <p>{row.happens}</p>
        <p className="mt-1 text-soft">
          {t("cause-probability", { word: capital(row.word), chance: chance(row.probability) })}
          {row.moment && t("cause-moment", { moment: row.moment })}
          {before.length > 0 && t("cause-may-come", { before: inside(before.join(", ")) })}
          {after.length > 0 && t("cause-may-lead", { after: inside(after.join(", ")) })}
        </p>
      </div>
      <WhatItDoes row={row} />
      <Details
        summary={t("cause-evidence-against-3", {
          supporting: supporting.length,
          opposing: opposing.length,
        })}
      >
        <Alone row={row} />
        <div className="mt-4 grid gap-4 sm:grid-cols-2">
          <EvidenceList title={t("cause-evidence-2")} items={supporting} empty={t("cause-no-evidence")} />
          <EvidenceList title={t("cause-evidence-against-2")} items={opposing} empty={t("cause-no-evidence-against")} />
        </div>
      </Details>
    </section>
  );
}

/** What numbers and checks say separately and together; a cause with only one kind deserves a second look. */
function Alone({ row }: { row: CauseRow }) {
  const parts: [string, number | null | undefined][] = [
    [t("cause-numbers-only"), row.numbers_alone],
    [t("cause-checks-only"), row.looks_alone],
    [t("cause-both"), row.probability],
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
            <dd className="col-span-2 text-soft">{t("common-none-yet")}</dd>
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
            <span className="text-soft" title={t("cause-change-log-odds")}>
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
  const result = useQuery(queries.faultBall(lesson.id, row.id, row.variant ?? ""));
  const sign = result.data?.shown_by[0];
  const drawn = useQuery({ ...queries.figure(sign?.[0] ?? "", hand), enabled: Boolean(sign), retry: false });
  if (!result.data) return null;
  const { before, after, reason } = result.data.ball;
  const figures = drawn.data?.grades.filter((g) => g.sound || g.grade === sign?.[1]);
  const refuting = result.data.refuted_by
    .slice(0, 3)
    .map(([check, grade]) => `${checkLabel(check)} ${quoted(word(grade))}`);

  function checkLabel(id: string): string {
    const check = knowledge.checks.find((c) => c.id === id);
    return check ? inside(check.label) : word(id);
  }
  return (
    <div>
      <h4 className="font-semibold">{t("cause-what-fault-alone-does-ball")}</h4>
      <div className="mt-2 grid max-w-3xl grid-cols-[1fr_2fr] items-center gap-3">
        <div className="flex">
          {drawn.data &&
            figures?.map((g) => (
              <SwingFigure
                key={g.grade}
                picture={drawn.data}
                grade={g}
                title={word(g.grade)}
                className="h-36 min-w-0 flex-1"
              />
            ))}
        </div>
        <FlightPaths before={before} after={after} hand={hand} />
      </div>
      {refuting.length > 0 && (
        <p className="mt-2">
          <span className="font-semibold">{t("cause-youd-rule-out-if-saw")}</span> {refuting.join(t("cause-or-by"))}.
        </p>
      )}
      <Details summary={t("cause-numbers-model")}>
        <p>{t("cause-model-fault-alone", { reason })}</p>
      </Details>
    </div>
  );
}
