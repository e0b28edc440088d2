import { useMutation, useQuery } from "@tanstack/react-query";
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
import { Consent } from "../lesson/Consent";
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
          {savedText(form.state, first.by_student ? t("ask-filled-student") : undefined)}
        </p>
      </div>
      {!first.asked && first.earlier_day && (
        <Callout as="div" tone="straw" className="mx-auto flex w-full max-w-6xl flex-wrap items-center gap-3">
          <p className="grow">
            {t("ask-answers-change-only-what-different", {
              earlier_day: datedDay(first.earlier_day),
            })}
          </p>
          <Button onClick={() => form.change((answers) => answers)}>{t("ask-no-changes")}</Button>
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

/** A link for the student to fill this in on a phone. */
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
          {t("ask-link-phone")}
        </Button>
        {make.isError && <Notice error={make.error} />}
      </>
    );
  }
  const address = `${location.origin}${make.data.path}`;
  return (
    <Callout as="div" tone="straw" className="flex flex-wrap items-center gap-3">
      <span className="max-w-md text-sm">
        {t("ask-send-link-shown-only-now", { day: clock.day(make.data.expires_at) })}{" "}
        <code className="font-mono break-all select-all">{address}</code>
      </span>
      <Button onClick={() => void navigator.clipboard?.writeText(address)}>{t("ask-copy")}</Button>
      <Button onClick={() => end.mutate()}>{t("common-disconnect")}</Button>
    </Callout>
  );
}
