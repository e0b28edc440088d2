import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { signed } from "../../domain/say";
import { Button } from "../../kit/Button";
import { DrillFigure } from "../../kit/DrillFigure";
import { TextField } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";
import { Schedule } from "./Schedule";

type Page = Schemas["TakeHomePage"];
type Words = { note: string; minutes: number; days_a_week: number; next_lesson: string | null };

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });
const QUIET_MS = 500;

/** One page: what was found, what changed, what to practise. */
export function TakeHomeStation() {
  const { lesson } = useDesk();
  const page = useQuery(queries.takeHome(lesson.id));
  if (page.isError) return <Notice error={page.error} />;
  if (!page.data) return null;
  return (
    <div className="mx-auto grid max-w-6xl gap-8 lg:grid-cols-[minmax(0,1fr)_300px]">
      <Sheet page={page.data} />
      <CoachWords key={lesson.id} page={page.data} />
    </div>
  );
}

function CoachWords({ page }: { page: Page }) {
  const { actions, lesson } = useDesk();
  const [words, setWords] = useState<Words>({
    note: page.note,
    minutes: page.minutes,
    days_a_week: page.days_a_week,
    next_lesson: page.next_lesson,
  });
  const touched = useRef(false);
  const { mutate } = actions.saveTakeHome;
  useEffect(() => {
    if (!touched.current) return;
    const timer = setTimeout(() => mutate(words), QUIET_MS);
    return () => clearTimeout(timer);
  }, [words, mutate]);
  function set(change: Partial<Words>) {
    touched.current = true;
    setWords((old) => ({ ...old, ...change }));
  }
  return (
    <aside aria-label="Your words" className="no-print flex flex-col gap-4">
      <TextField label="A word to the student" value={words.note} maxLength={1000} onChange={(note) => set({ note })} />
      <TextField label="Minutes a time" type="number" min={1} max={90} value={words.minutes} onChange={(v) => set({ minutes: Number(v) })} />
      <TextField label="Days a week (rest days stay)" type="number" min={1} max={6} value={words.days_a_week} onChange={(v) => set({ days_a_week: Number(v) })} />
      <TextField label="Next lesson" type="date" value={words.next_lesson ?? ""} onChange={(v) => set({ next_lesson: v || null })} />
      {actions.saveTakeHome.isError && <Notice error={actions.saveTakeHome.error} />}
      <Button strong onClick={() => window.print()}>
        Print
      </Button>
      <Button onClick={() => actions.move.mutate({ ended: lesson.ended_at === null })}>{lesson.ended_at === null ? "End the lesson" : "Open the lesson again"}</Button>
    </aside>
  );
}

function Sheet({ page }: { page: Page }) {
  const knowledge = useKnowledge();
  const { hand } = useDesk();
  const metric = knowledge.metrics.find((m) => m.id === page.primary);
  const unit = metric?.unit === "°" ? "°" : ` ${metric?.unit ?? ""}`;
  return (
    <article className="border border-rule bg-sheet px-8 py-7 print:border-0 print:p-0">
      <header className="mb-5 flex flex-wrap items-baseline justify-between gap-3 border-b-2 border-ink pb-2">
        <h2 className="text-3xl font-bold">{page.student}</h2>
        <p className="text-soft">
          {DAY.format(new Date(page.day))}, with {page.coach}, {page.academy}
        </p>
      </header>
      <Part title="What we found">
        {page.found.length === 0 ? <p className="text-soft">No baseline was recorded.</p> : <ul>{page.found.map((text) => <li key={text}>{text}</li>)}</ul>}
        {page.cause && (
          <p className="mt-2">
            <strong>{page.cause}</strong> ({page.cause_word}). {page.cause_sentence}
          </p>
        )}
      </Part>
      <Part title="What changed">
        {page.status ? (
          <p>
            <strong>{page.status}.</strong> {page.status_sentence}
            {page.change?.estimate != null && metric && (
              <>
                {" "}
                {metric.label} {signed(page.change.estimate)}
                {unit}
                {page.change.low !== null && page.change.high !== null && `, between ${signed(page.change.low)} and ${signed(page.change.high)}`}.
              </>
            )}
          </p>
        ) : (
          <p className="text-soft">No correction was tried.</p>
        )}
      </Part>
      {page.drill && (
        <Part title={`Practise: ${page.drill.name}`}>
          <div className="grid items-start gap-5 sm:grid-cols-[1fr_10rem]">
            <div>
              <p className="text-2xl font-semibold">“{page.cue}”</p>
              <p>{page.drill.setup}</p>
              <p>
                It is right when: {page.drill.mark.charAt(0).toLowerCase() + page.drill.mark.slice(1)} <br />
                It is not, when: {page.drill.fake.charAt(0).toLowerCase() + page.drill.fake.slice(1)}
              </p>
              <p>Expect at first: {page.drill.ugly.charAt(0).toLowerCase() + page.drill.ugly.slice(1)}</p>
            </div>
            <DrillFigure drill={page.drill.id} hand={hand} title={page.drill.name} />
          </div>
          <p className="mt-1 mb-1">
            {page.next_lesson ? `Until ${DAY.format(new Date(page.next_lesson))}:` : "For the next two weeks:"}
          </p>
          <Schedule />
        </Part>
      )}
      {page.note && (
        <Part title={`From ${page.coach.split(" ")[0]}`}>
          <p className="text-lg">{page.note}</p>
        </Part>
      )}
      <Part title="Take care">
        <ul className="text-sm">
          {page.cautions.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      </Part>
    </article>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mb-5">
      <h3 className="mb-1 text-lg font-bold">{title}</h3>
      {children}
    </section>
  );
}
