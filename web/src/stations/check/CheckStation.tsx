import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";

import { type Check, queries, useKnowledge } from "../../api/queries";
import { capital, hyphens } from "../../domain/say";
import { Button, KeyCap } from "../../kit/Button";
import { ChooseOne } from "../../kit/Field";
import { Meter } from "../../kit/Meter";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";

const NOT_SEEN = "not-seen";
const ORDERS = [
  { id: "value", label: "What tells most" },
  { id: "swing", label: "Order of the swing" },
];

/** Looks at the body, one key a grade; the most telling one comes first. */
export function CheckStation() {
  const { lesson, actions } = useDesk();
  const knowledge = useKnowledge();
  const grades = useQuery(queries.checks(lesson.id));
  const cause = useQuery(queries.cause(lesson.id));
  const [order, setOrder] = useState("value");
  const [held, setHeld] = useState<string | null>(null);
  const graded = grades.data?.grades ?? {};

  const gains = useMemo(() => new Map(cause.data?.next_checks.map((c) => [c.id, c.gain_bits])), [cause.data]);
  const open = useMemo(() => {
    const left = knowledge.checks.filter((c) => !isGraded(graded[c.id]));
    if (order === "swing") return left;
    const rank = new Map(cause.data?.next_checks.map((c, i) => [c.id, i]));
    return left.toSorted((a, b) => (rank.get(a.id) ?? 99) - (rank.get(b.id) ?? 99));
  }, [knowledge.checks, graded, order, cause.data]);
  const current = knowledge.checks.find((c) => c.id === held) ?? open[0];
  const most = Math.max(...gains.values(), 0.01);

  function grade(check: Check, value: string) {
    setHeld(null);
    actions.grade.mutate({ [check.id]: value });
  }
  useGradeKeys(current, grade);

  if (cause.isError) return <Notice error={cause.error} />;
  return (
    <div className="mx-auto grid max-w-6xl gap-8 lg:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
      <section aria-live="polite">
        {current ? (
          <CurrentLook check={current} grade={graded[current.id]} gain={gains.get(current.id)} most={most} onGrade={(g) => grade(current, g)} />
        ) : (
          <p className="text-xl">Every look is graded.</p>
        )}
        {actions.grade.isError && <Notice error={actions.grade.error} />}
        <Seen graded={graded} onOpen={setHeld} />
      </section>
      <section aria-label="Looks to come">
        <ChooseOne label="Next looks by" options={ORDERS} value={order} onChange={(v) => v && setOrder(v)} />
        <ul className="mt-3 divide-y divide-rule border-y border-rule">
          {open.slice(0, 9).map((check) => (
            <li key={check.id}>
              <button
                type="button"
                onClick={() => setHeld(check.id)}
                className={`grid min-h-11 w-full grid-cols-[1fr_6rem] items-center gap-3 px-2 py-1 text-left hover:bg-sheet ${check.id === current?.id ? "bg-straw-ground" : ""}`}
              >
                <span>
                  {check.label} <span className="text-sm text-soft">{check.moment}</span>
                </span>
                <Meter share={(gains.get(check.id) ?? 0) / most} label={`tells ${(gains.get(check.id) ?? 0).toFixed(2)} bits`} tone="moss" />
              </button>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function isGraded(grade: string | undefined): boolean {
  return grade !== undefined && grade !== NOT_SEEN;
}

/** Digits grade the current look: 1 is always the sound one, 0 is "not seen". */
function useGradeKeys(current: Check | undefined, grade: (check: Check, value: string) => void) {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (!current || event.altKey || event.ctrlKey || event.metaKey || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
      if (document.querySelector("[role=dialog]") || !/^\d$/.test(event.key)) return;
      const value = event.key === "0" ? NOT_SEEN : current.grades[Number(event.key) - 1];
      if (!value) return;
      event.preventDefault();
      grade(current, value);
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}

type LookProps = { check: Check; grade?: string; gain?: number; most: number; onGrade: (grade: string) => void };

function CurrentLook({ check, grade, gain, most, onGrade }: LookProps) {
  const views: Record<string, string> = { "face-on": "from the front", "down-the-line": "down the line", any: "from any side" };
  const worth = (gain ?? 0) / most;
  return (
    <div className="border-l-4 border-clay bg-clay-ground px-5 py-4">
      <p className="text-soft">
        {capital(check.moment)}, {views[check.view]}
        {gain !== undefined && ` · ${worth > 0.85 ? "tells most now" : worth > 0.4 ? "tells something" : "tells little"}`}
      </p>
      <h2 className="mt-1 text-2xl font-bold">{check.label}</h2>
      <p className="mb-4 text-lg">{check.question}</p>
      <div className="flex flex-wrap gap-2">
        {check.grades.map((g, i) => (
          <Button key={g} keyName={`${i + 1}`} aria-pressed={grade === g} onClick={() => onGrade(g)} className="min-h-14 text-lg">
            {hyphens(g)}
          </Button>
        ))}
        <Button keyName="0" onClick={() => onGrade(NOT_SEEN)} className="min-h-14">
          not seen
        </Button>
      </div>
    </div>
  );
}

function Seen({ graded, onOpen }: { graded: Record<string, string>; onOpen: (id: string) => void }) {
  const knowledge = useKnowledge();
  const seen = knowledge.checks.filter((c) => isGraded(graded[c.id]));
  if (seen.length === 0) {
    return (
      <p className="mt-4 text-soft">
        Press <KeyCap>1</KeyCap> for the sound grade, the next digits for the others. The look that would settle most comes first.
      </p>
    );
  }
  return (
    <table className="mt-5 w-full text-left">
      <caption className="mb-1 text-left font-semibold">Seen so far</caption>
      <tbody>
        {seen.map((check) => (
          <tr key={check.id} className="border-b border-rule">
            <th scope="row" className="py-1 font-normal">
              {check.label}
            </th>
            <td className={graded[check.id] === check.grades[0] ? "text-soft" : "font-semibold text-clay"}>{hyphens(graded[check.id] ?? "")}</td>
            <td className="text-right">
              <button type="button" className="min-h-8 px-2 text-sm underline underline-offset-4" onClick={() => onOpen(check.id)}>
                Change
                <span className="sr-only"> {check.label}</span>
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
