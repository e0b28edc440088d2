import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { type Candidate, queries, useKnowledge } from "../../api/queries";
import { fixed, inside, t } from "../../shared/format/language";
import { chance } from "../../shared/format/say";
import { distance } from "../../shared/format/units";
import { Meter } from "../../shared/ui/Meter";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "../lesson/LessonContext";
import { Plan } from "./Plan";
import { Schools } from "./Schools";

/** Choose one correction from the candidates, by its benefit for this student. */
export function CorrectStation() {
  const { lesson } = useDesk();
  const actions = useActions();
  const navigate = useNavigate();
  const choices = useQuery(queries.corrections(lesson.id));
  const [wish] = useSearchParams(); // the plan for today asks for a fault, a drill, a stage
  const [opened, setOpened] = useState<string | null>(wish.get("fault"));
  const knowledge = useKnowledge();
  if (choices.isError) return <Notice error={choices.error} />;
  if (!choices.data) return null;
  const { candidates, active, tried } = choices.data;
  const shown =
    candidates.find((c) => c.id === opened) ?? candidates.find((c) => c.id === active?.fault) ?? candidates[0];
  const label = (id: string) => knowledge.causes.find((c) => c.id === id)?.label.split(",")[0] ?? id;
  return (
    <div className="mx-auto grid max-w-[87.5rem] gap-6 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <section aria-labelledby="candidates">
        <h2 id="candidates" className="mb-2 text-2xl font-bold">
          {t("correct-correction")}
        </h2>
        {candidates.length === 0 && <p className="text-soft">{t("correct-no-cause-likely-enough-correction")}</p>}
        <ol className="grid content-start gap-2 sm:grid-cols-2 lg:grid-cols-1">
          {candidates.map((candidate) => (
            <li key={candidate.id}>
              <CandidateCard
                candidate={candidate}
                chosen={candidate.id === active?.fault}
                open={candidate.id === shown?.id}
                onOpen={() => setOpened(candidate.id)}
              />
            </li>
          ))}
        </ol>
        <Schools />
        {tried.length > 0 && (
          <p className="mt-4 text-soft">
            {t("correct-tried-before", {
              corrections: tried
                .map((t) => `${inside(label(t.fault))} (${inside(knowledge.words.status?.[t.outcome] ?? t.outcome)})`)
                .join(", "),
            })}
          </p>
        )}
      </section>
      {shown && (
        <Plan
          key={shown.id}
          candidate={shown}
          active={active?.fault === shown.id ? active : null}
          wish={wish.get("fault") === shown.id ? { drill: wish.get("drill"), stage: wish.get("stage") } : null}
          pending={actions.correct.isPending}
          error={actions.correct.error}
          onTake={(body) => actions.correct.mutate(body, { onSuccess: () => navigate(`/lessons/${lesson.id}/prove`) })}
        />
      )}
    </div>
  );
}

type CardProps = { candidate: Candidate; chosen: boolean; open: boolean; onOpen: () => void };

function CandidateCard({ candidate, chosen, open, onOpen }: CardProps) {
  const { units } = useDesk();
  const benefit = candidate.benefit_m;
  return (
    <button
      type="button"
      aria-pressed={open}
      onClick={onOpen}
      className={`w-full border px-3 py-2 text-left ${open ? "border-ink bg-sheet" : "border-rule hover:border-ink"}`}
    >
      <span className="flex items-baseline justify-between gap-2">
        <span className="font-semibold">{candidate.label}</span>
        {chosen && <span className="bg-ink px-1.5 text-sm text-paper">{t("correct-selected")}</span>}
      </span>
      <span className="grid grid-cols-[6.5rem_1fr_auto] items-center gap-x-2 text-sm text-soft">
        <span>{candidate.word}</span>
        <Meter
          share={candidate.probability}
          label={t("common-probability", { chance: chance(candidate.probability) })}
          tone="clay"
        />
        <span>{chance(candidate.probability)}</span>
        <span>{t("correct-worth")}</span>
        <Meter
          share={(benefit ?? 0) / 15}
          label={
            benefit === null
              ? t("correct-worth-not-known")
              : t("correct-worth-2", { distance: distance(benefit, units) })
          }
          tone="moss"
        />
        <span>{benefit === null ? "?" : distance(Math.max(0, benefit), units)}</span>
        {open && <Rest candidate={candidate} />}
      </span>
    </button>
  );
}

/** Further evidence for or against the selected candidate. */
function Rest({ candidate }: { candidate: Candidate }) {
  const { units } = useDesk();
  return (
    <>
      <span>{t("correct-feasible")}</span>
      <Meter
        share={candidate.feasibility}
        label={t("correct-feasibility", { feasibility: fixed(candidate.feasibility, 1) })}
        tone="slate"
      />
      <span>
        {candidate.feasibility === 1
          ? t("correct-yes")
          : candidate.feasibility > 0.5
            ? t("correct-care")
            : t("correct-hardly")}
      </span>
      <span>{t("correct-helps-later-faults")}</span>
      <Meter
        share={(candidate.upstream - 1) / 0.35}
        label={t("correct-helps-later-faults-factor", { upstream: fixed(candidate.upstream, 2) })}
        tone="ink"
      />
      <span>×{fixed(candidate.upstream, 2)}</span>
      <span>{t("correct-effort")}</span>
      <Meter
        share={candidate.effort_m / 2}
        label={t("correct-effort-2", { distance: distance(candidate.effort_m, units) })}
        tone="ink"
      />
      <span>
        {candidate.effort_m < 0.6
          ? t("correct-little")
          : candidate.effort_m < 1.2
            ? t("correct-some")
            : t("correct-much")}
      </span>
    </>
  );
}
