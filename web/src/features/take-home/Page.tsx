import { useState } from "react";
import type { TakeHomePage } from "../../api/records";
import { DrillFigure } from "../../shared/charts/DrillFigure";
import { datedDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { PairStills } from "../../shared/ui/PairStills";
import { Schedule } from "./Schedule";

type Section = TakeHomePage["sections"][number];
type Props = { lessonId: number; page: TakeHomePage; onEdit: (section: string, lines: string[] | null) => void };

/** The take-home page; every part except the cautions can be edited. */
export function Page({ lessonId, page, onEdit }: Props) {
  return (
    <article className="border border-rule bg-sheet px-8 py-7 print:border-0 print:p-0">
      <header className="mb-4 flex flex-wrap items-baseline justify-between gap-3 border-b-2 border-ink pb-2">
        <h2 className="text-3xl font-bold">{page.student}</h2>
        <p className="text-soft">
          {t("common-with", { day: datedDay(page.day), coach: page.coach, academy: page.academy })}
        </p>
      </header>
      {page.drill && (
        <figure className="float-right mb-2 ml-5 w-36">
          <DrillFigure drill={page.drill} hand={page.hand} title={page.drill_name} />
          <figcaption className="text-center text-sm text-soft">{page.drill_name}</figcaption>
        </figure>
      )}
      {page.sections.map((section) => (
        <Part key={section.id} section={section} onEdit={onEdit} />
      ))}
      {page.pair && <PairStills pair={page.pair} from={`/api/v1/lessons/${lessonId}/pair`} />}
      {page.note && (
        <section className="mb-4">
          <h3 className="text-lg font-bold">{t("common-from", { split: page.coach.split(" ")[0] })}</h3>
          <p>{page.note}</p>
        </section>
      )}
      {page.plan.length > 0 && (
        <section className="mb-4">
          <h3 className="mb-1 text-lg font-bold">
            {page.next_lesson
              ? t("take-home-until", { next_lesson: datedDay(page.next_lesson) })
              : t("take-home-next-two-weeks")}
          </h3>
          <Schedule plan={page.plan} nextLesson={page.next_lesson} />
        </section>
      )}
      <Callout as="section" tone="straw">
        <h3 className="font-bold">{t("common-take-care")}</h3>
        <ul className="text-sm">
          {page.cautions.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      </Callout>
    </article>
  );
}

function Part({ section, onEdit }: { section: Section; onEdit: Props["onEdit"] }) {
  const [editing, setEditing] = useState(false);
  if (!editing && section.lines.length === 0) {
    return (
      <p className="no-print mb-3 text-soft">
        {t("take-home-left-out", { title: section.title })}{" "}
        <button
          type="button"
          className="min-h-11 underline underline-offset-4"
          onClick={() => onEdit(section.id, null)}
        >
          {t("common-restore")}
        </button>
      </p>
    );
  }
  return (
    <section className="group mb-3">
      <div className="flex items-baseline gap-3">
        <h3 className="text-lg font-bold">{section.title}</h3>
        {!editing && (
          <button
            type="button"
            onClick={() => setEditing(true)}
            className="no-print min-h-11 px-1 text-sm text-soft underline-offset-4 group-hover:underline focus-visible:underline"
          >
            {t("common-edit")}
            <span className="sr-only"> {section.title}</span>
          </button>
        )}
        {section.edited && !editing && <span className="no-print text-sm text-soft">{t("take-home-edited")}</span>}
      </div>
      {editing ? (
        <Rewording section={section} onEdit={onEdit} onClose={() => setEditing(false)} />
      ) : (
        section.lines.map((line, i) => (
          <p
            key={line}
            className={section.id === "correction" && i === 0 ? "text-2xl leading-tight font-semibold" : ""}
          >
            {line}
          </p>
        ))
      )}
    </section>
  );
}

function Rewording({ section, onEdit, onClose }: { section: Section; onEdit: Props["onEdit"]; onClose: () => void }) {
  const [text, setText] = useState(section.lines.join("\n"));
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onEdit(
          section.id,
          text
            .split("\n")
            .map((t) => t.trim())
            .filter(Boolean),
        );
        onClose();
      }}
    >
      <textarea
        aria-label={t("take-home-one-sentence-per-line", { title: section.title })}
        // biome-ignore lint/a11y/noAutofocus: the coach has just asked to write here
        autoFocus
        rows={Math.max(3, section.lines.length + 1)}
        maxLength={2000}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && onClose()}
        className="w-full rounded-sm border border-rule bg-paper px-3 py-2"
      />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" strong>
          {t("common-save")}
        </Button>
        <Button onClick={onClose}>{t("common-cancel")}</Button>
        <Button
          onClick={() => {
            onEdit(section.id, []);
            onClose();
          }}
        >
          {t("take-home-leave-out")}
        </Button>
        {section.edited && (
          <Button
            onClick={() => {
              onEdit(section.id, null);
              onClose();
            }}
          >
            {t("take-home-restore-proposed-text")}
          </Button>
        )}
      </div>
    </form>
  );
}
