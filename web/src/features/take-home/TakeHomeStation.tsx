import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { TakeHomePage } from "../../api/records";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { savedText } from "../../shared/ui/savedText";
import { useAutosave } from "../../shared/ui/useAutosave";
import { useActions, useDesk } from "../lesson/LessonContext";
import { Page } from "./Page";
import { Practised } from "./Practised";
import { Share } from "./Share";

type Words = {
  note: string;
  minutes: number;
  days_a_week: number;
  next_lesson: string | null;
  sections: Record<string, string[]>;
};

/** Take home: what was found, what changed, what to practice; the coach's note, and how to send it. */
export function TakeHomeStation() {
  const { lesson } = useDesk();
  const page = useQuery(queries.takeHome(lesson.id));
  if (page.isError) return <Notice error={page.error} />;
  if (!page.data) return null;
  return <Desk key={lesson.id} page={page.data} />;
}

function Desk({ page }: { page: TakeHomePage }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const form = useAutosave<Words>({
    name: `take-home-${lesson.id}`,
    saved: wordsOf(page),
    save: actions.saveTakeHome.mutateAsync,
  });
  const words = form.value;
  const set = (change: Partial<Words>) => form.change((old) => ({ ...old, ...change }));
  const edit = (section: string, lines: string[] | null) =>
    form.change((old) => {
      const { [section]: _, ...others } = old.sections;
      return { ...old, sections: lines === null ? others : { ...others, [section]: lines } };
    });
  return (
    <div className="mx-auto grid max-w-6xl gap-8 lg:grid-cols-[minmax(0,1fr)_320px]">
      <Page lessonId={lesson.id} page={page} onEdit={edit} />
      <aside aria-label={t("take-home-note")} className="no-print flex flex-col gap-4">
        <TextField
          label={t("take-home-note-student")}
          value={words.note}
          maxLength={1000}
          onChange={(note) => set({ note })}
        />
        <div className="grid grid-cols-2 gap-3">
          <TextField
            label={t("take-home-minutes-per-day")}
            type="number"
            min={1}
            max={90}
            value={words.minutes}
            onChange={(v) => set({ minutes: Number(v) })}
          />
          <TextField
            label={t("take-home-days-per-week")}
            type="number"
            min={1}
            max={6}
            value={words.days_a_week}
            onChange={(v) => set({ days_a_week: Number(v) })}
          />
        </div>
        <TextField
          label={t("take-home-next-lesson")}
          type="date"
          value={words.next_lesson ?? ""}
          onChange={(v) => set({ next_lesson: v || null })}
        />
        <p role="status" className="min-h-5 text-sm text-soft">
          {savedText(form.state)}
        </p>
        {form.state === "refused" && form.error && <Notice error={form.error} />}
        <Share />
        <Practised />
        {!lesson.training && (
          <Button onClick={() => actions.move.mutate({ ended: lesson.ended_at === null })}>
            {lesson.ended_at === null ? t("take-home-end-lesson") : t("take-home-reopen-lesson")}
          </Button>
        )}
      </aside>
    </div>
  );
}

function wordsOf(page: TakeHomePage): Words {
  const { note, minutes, days_a_week, next_lesson } = page;
  const own = page.sections.filter((s) => s.edited).map((s) => [s.id, s.lines]);
  return { note, minutes, days_a_week, next_lesson, sections: Object.fromEntries(own) };
}
