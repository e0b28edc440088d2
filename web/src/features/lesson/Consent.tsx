import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ask, client, Problems } from "../../api/client";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "./LessonContext";

/** Consent to data storage and to filming, each with its day; a junior needs the guardian's name. */
export function Consent() {
  const clock = useClock();
  const { student } = useDesk().lesson;
  const params = { path: { student_id: student.id } };
  return (
    <div>
      <Agreed
        day={student.consented_at}
        asks={t("lesson-agrees-balls-checks-words-stored")}
        says={student.consented_at ? t("lesson-agreed-data-storage", { day: clock.day(student.consented_at) }) : ""}
        change={(given) => ask(client.PUT("/api/v1/students/{student_id}/consent", { params, body: { given } }))}
      />
      <FilmingConsent />
    </div>
  );
}

/** Consent to being filmed; withdrawing deletes the films, after a confirmation that says how many. */
export function FilmingConsent() {
  const clock = useClock();
  const { student } = useDesk().lesson;
  const params = { path: { student_id: student.id } };
  return (
    <Agreed
      day={student.filming_agreed_at}
      asks={t("lesson-agrees-filmed")}
      says={student.filming_agreed_at ? t("lesson-agreed-filmed", { day: clock.day(student.filming_agreed_at) }) : ""}
      change={(given, confirmed) =>
        ask(client.PUT("/api/v1/students/{student_id}/filming", { params, body: { given, confirmed } }))
      }
    />
  );
}

type AgreedProps = {
  day?: string | null;
  asks: string;
  says: string;
  change: (given: boolean, confirmed: boolean) => Promise<unknown>;
};

function Agreed({ day, asks, says, change }: AgreedProps) {
  const { lesson } = useDesk();
  const cache = useQueryClient();
  const changing = useMutation({
    mutationFn: ({ given, confirmed = false }: { given: boolean; confirmed?: boolean }) => change(given, confirmed),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["lesson", lesson.id] }),
  });
  // Withdrawing deletes films: the server says how many first.
  const films = changing.error instanceof Problems && changing.error.list.find((p) => p.field === "films");
  const guardian = lesson.student.guardian_consent;
  return (
    <>
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="h-5 w-5 accent-clay"
          checked={Boolean(day)}
          disabled={changing.isPending}
          onChange={(event) => changing.mutate({ given: event.target.checked })}
        />
        {says || asks}
        {guardian && <span className="text-soft">{t("lesson-guardian", { guardian_consent: guardian })}</span>}
      </label>
      {films ? (
        <Callout as="div" tone="plum" role="alert" className="flex flex-wrap items-center gap-3">
          <p>{films.message}</p>
          <Button disabled={changing.isPending} onClick={() => changing.mutate({ given: false, confirmed: true })}>
            {t("lesson-delete-films-withdraw")}
          </Button>
          <Button onClick={() => changing.reset()}>{t("common-cancel")}</Button>
        </Callout>
      ) : (
        changing.isError && <Notice error={changing.error} />
      )}
    </>
  );
}
