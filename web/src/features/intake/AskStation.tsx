import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, type Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { datedDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { savedText } from "../../shared/ui/savedText";
import { useAutosave } from "../../shared/ui/useAutosave";
import { useActions, useDesk } from "../lesson/LessonContext";
import { AskForm } from "./AskForm";
import type { Answers, AskWords } from "./ask";

/** The usual miss, contact, feels and limits: two minutes, saved automatically. */
export function AskStation() {
  const { lesson } = useDesk();
  const intake = useQuery(queries.intake(lesson.id));
  if (intake.isError) return <Notice error={intake.error} />;
  if (!intake.data) return null;
  return <Filling key={`${lesson.id} ${intake.data.by_student}`} first={intake.data} />;
}

function Filling({ first }: { first: Schemas["IntakeOut"] }) {
  const { lesson, units } = useDesk();
  const actions = useActions();
  const knowledge = useKnowledge();
  const form = useAutosave<Answers>({
    name: `intake-${lesson.id}`,
    saved: first.answers,
    save: actions.saveIntake.mutateAsync,
  });

  const named = (kind: string) =>
    Object.fromEntries(knowledge.intake_words.filter((w) => w.kind === kind).map((w) => [w.id, w.label]));
  const words = { ...knowledge.words, contact: named("contact"), feel: named("feel") } as unknown as AskWords;
  const faults = [
    ...new Map(
      knowledge.causes.filter((c) => c.kind !== "compensation").map((c) => [c.id, c.label.split(",")[0] as string]),
    ).entries(),
  ].map(([id, label]) => ({ id, label }));
  return (
    <div className="flex flex-col gap-5">
      <div className="mx-auto flex w-full max-w-6xl flex-wrap items-center gap-x-6 gap-y-2">
        {!lesson.training && (
          <>
            <Consent />
            <PhoneLink />
          </>
        )}
        <p role="status" className="ml-auto text-sm text-soft">
          {savedText(form.state, first.by_student ? t("Filled in by the student.") : undefined)}
        </p>
      </div>
      {!first.asked && first.earlier_day && (
        <Callout as="div" tone="straw" className="mx-auto flex w-full max-w-6xl flex-wrap items-center gap-3">
          <p className="grow">
            {t("As told on {earlier_day}. Change only what is different today.", {
              earlier_day: datedDay(first.earlier_day),
            })}
          </p>
          <Button onClick={() => form.change((answers) => answers)}>{t("Nothing has changed")}</Button>
        </Callout>
      )}
      {form.state === "refused" && form.error && <Notice error={form.error} />}
      <AskForm
        answers={form.value}
        words={words}
        caution={knowledge.cautions.find((c) => c.id === "not-medical")?.text ?? ""}
        units={units}
        who={lesson.student.name.split(" ")[0] ?? ""}
        group={lesson.club_group}
        faults={faults}
        onChange={(next) => form.change(() => next)}
      />
    </div>
  );
}

/** Consent to the record and to being filmed, each with its day; a junior's needs the guardian's name. */
function Consent() {
  const clock = useClock();
  const { student } = useDesk().lesson;
  const params = { path: { student_id: student.id } };
  return (
    <div>
      <Agreed
        day={student.consented_at}
        asks={t("Agrees that balls, looks and words are kept")}
        says={student.consented_at ? t("Agreed to the record on {day}", { day: clock.day(student.consented_at) }) : ""}
        change={(given) => ask(client.PUT("/api/v1/students/{student_id}/consent", { params, body: { given } }))}
      />
      <Agreed
        day={student.filming_agreed_at}
        asks={t("Agrees to be filmed by the bay's cameras")}
        says={
          student.filming_agreed_at
            ? t("Agreed to be filmed on {day}", { day: clock.day(student.filming_agreed_at) })
            : ""
        }
        change={(given) => ask(client.PUT("/api/v1/students/{student_id}/filming", { params, body: { given } }))}
      />
    </div>
  );
}

type AgreedProps = { day?: string | null; asks: string; says: string; change: (given: boolean) => Promise<unknown> };

function Agreed({ day, asks, says, change }: AgreedProps) {
  const { lesson } = useDesk();
  const cache = useQueryClient();
  const changing = useMutation({
    mutationFn: change,
    onSuccess: () => cache.invalidateQueries({ queryKey: ["lesson", lesson.id] }),
  });
  const guardian = lesson.student.guardian_consent;
  return (
    <>
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="h-5 w-5 accent-clay"
          checked={Boolean(day)}
          disabled={changing.isPending}
          onChange={(event) => changing.mutate(event.target.checked)}
        />
        {says || asks}
        {guardian && (
          <span className="text-soft">{t("(guardian {guardian_consent})", { guardian_consent: guardian })}</span>
        )}
      </label>
      {changing.isError && <Notice error={changing.error} />}
    </>
  );
}

/** A link with which the student fills this in on a phone. */
function PhoneLink() {
  const clock = useClock();
  const { lesson } = useDesk();
  const params = { path: { lesson_id: lesson.id } };
  const make = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/lessons/{lesson_id}/intake-link", { params })),
  });
  const end = useMutation({
    mutationFn: () => ask(client.DELETE("/api/v1/lessons/{lesson_id}/intake-link", { params })),
    onSuccess: () => make.reset(),
  });
  if (!make.data) {
    return (
      <>
        <Button onClick={() => make.mutate()} disabled={make.isPending}>
          {t("Link for the phone")}
        </Button>
        {make.isError && <Notice error={make.error} />}
      </>
    );
  }
  const address = `${location.origin}${make.data.path}`;
  return (
    <Callout as="div" tone="straw" className="flex flex-wrap items-center gap-3">
      <span className="max-w-md text-sm">
        {t("Send this, shown only now, good until {day}:", { day: clock.day(make.data.expires_at) })}{" "}
        <code className="font-mono break-all select-all">{address}</code>
      </span>
      <Button onClick={() => void navigator.clipboard?.writeText(address)}>{t("Copy")}</Button>
      <Button onClick={() => end.mutate()}>{t("End it")}</Button>
    </Callout>
  );
}
