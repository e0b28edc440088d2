import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { queries, type Ranking, useKnowledge } from "../../api/queries";
import { inside, t, word } from "../../shared/format/language";
import { chance } from "../../shared/format/say";
import { LinkButton } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Meter } from "../../shared/ui/Meter";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { useDesk } from "../lesson/LessonContext";
import { CauseBoard } from "./CauseBoard";
import { type CauseRow, FaultOpened } from "./FaultOpened";
import { History } from "./History";
import { OpenMapping } from "./OpenMapping";
import { Rivals } from "./Rivals";

const CLEAR = 0.7;
const WORTH_A_WORD = 0.15;
const WORTH_CHECKING = 0.08;

const CLOSER = [
  { id: "one", label: "cause-fault" },
  { id: "rivals", label: "cause-compare-two-causes" },
  { id: "history", label: "cause-history" },
  { id: "others", label: "cause-other-causes" },
];

/** Ranked causes with their evidence, and the check that would settle it. */
export function CauseStation() {
  const { lesson } = useDesk();
  const cause = useQuery(queries.cause(lesson.id));
  const [opened, setOpened] = useState<string | null>(null);
  const [closer, setCloser] = useState("one");
  if (cause.isError) return <Notice error={cause.error} />;
  if (!cause.data) return null;
  const ranking = cause.data;
  const leader = ranking.faults[0];
  const shown = [...ranking.faults, ...ranking.partners].find((f) => f.id === opened) ?? leader;
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-5">
      <Verdict ranking={ranking} />
      <CauseBoard ranking={ranking} opened={shown?.id} onOpen={setOpened} />
      <div className="flex flex-wrap items-end justify-between gap-3">
        <Tabs label={t("common-details")} tabs={CLOSER} value={closer} onChange={setCloser} />
        <LinkButton to={`/lessons/${lesson.id}/explain`}>{t("cause-explain-student")}</LinkButton>
      </div>
      {closer === "one" && shown && <FaultOpened row={shown} ranking={ranking} />}
      {closer === "rivals" && <Rivals ranking={ranking} opened={shown?.id} />}
      {closer === "history" && <History />}
      {closer === "others" && <Others ranking={ranking} />}
    </div>
  );
}

function Verdict({ ranking }: { ranking: Ranking }) {
  const { lesson } = useDesk();
  const knowledge = useKnowledge();
  const [leader] = ranking.faults;
  const [best] = ranking.next_checks;
  const change = ranking.would_change;
  const label = (id: string) => knowledge.causes.find((c) => c.id === id)?.label.split(",")[0] ?? word(id);
  return (
    <div className="grid items-start gap-x-8 gap-y-3 md:grid-cols-[1fr_auto]">
      <div>
        <h2 className="text-2xl font-bold">{headline(ranking)}</h2>
        {ranking.notes.map((note) => (
          <p key={note} className="text-soft">
            {note}
          </p>
        ))}
        {ranking.signs_in_doubt && <OpenMapping />}
        {ranking.unexplained > 0.3 && (
          <p className="text-plum">
            {t("cause-these-causes-leave-pattern-unexplained", {
              percent: Math.round(ranking.unexplained * 100),
            })}
          </p>
        )}
      </div>
      {best && best.gain_bits >= WORTH_CHECKING && (
        <Callout tone="moss" className="max-w-md">
          <Link
            to={`/lessons/${lesson.id}/check`}
            className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
          >
            {t("cause-best-next-check", { label: inside(best.label) })}
          </Link>
          <br />
          {best.question}
          {change && leader && leader.probability >= WORTH_A_WORD && (
            <span className="block text-soft">
              {t("cause-if-takes-lead", {
                check: inside(knowledge.checks.find((c) => c.id === change.check)?.label ?? ""),
                grade: word(change.grade),
                leader: inside(label(change.leader)),
              })}
            </span>
          )}
        </Callout>
      )}
    </div>
  );
}

/** The ranking in one sentence; causes other than the pivot come first. */
function headline(ranking: Ranking): string {
  const [leader] = ranking.faults;
  const [other] = ranking.compensations;
  if (other && leader && other.probability >= CLEAR && other.probability > leader.probability) {
    return t("cause-probably-not-pivot", { label: other.label, word: other.word });
  }
  return leader && ranking.enough ? `${leader.label}: ${leader.word}.` : t("cause-not-settled-yet");
}

/** Other causes: linked to a fault, or not the pivot at all. */
function Others({ ranking }: { ranking: Ranking }) {
  return (
    <section className="grid gap-8 md:grid-cols-2">
      <CauseList title={t("cause-linked-faults")} rows={ranking.partners} />
      <CauseList title={t("cause-not-pivot")} rows={ranking.compensations.slice(0, 5)} />
    </section>
  );
}

function CauseList({ title, rows }: { title: string; rows: CauseRow[] }) {
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="grid grid-cols-[1fr_7rem_6rem] items-center gap-3 py-0.5">
            <span>{row.label}</span>
            <span className="text-sm text-soft">{row.word}</span>
            <Meter share={row.probability} label={`${row.label} ${chance(row.probability)}`} tone="slate" />
          </li>
        ))}
      </ul>
    </div>
  );
}
