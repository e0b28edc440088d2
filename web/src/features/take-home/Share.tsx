import { useQuery } from "@tanstack/react-query";
import { records, usePlanActions } from "../../api/records";
import { datedDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button, FileButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "../lesson/LessonContext";

/** How the student gets the page: print, file, calendar, or link. */
export function Share() {
  const { lesson } = useDesk();
  const { makeLink, endLink } = usePlanActions(lesson.id);
  const result = useQuery(records.homeLink(lesson.id));
  const path = makeLink.data?.path;
  const until = result.data?.expires_at;
  const address = path ? `${location.origin}${path}` : "";
  return (
    <section aria-label={t("take-home-send-home")} className="flex flex-col gap-3 border-y border-rule py-4">
      <div className="flex flex-wrap gap-2">
        <Button strong onClick={() => window.print()}>
          {t("take-home-print")}
        </Button>
        <FileButton href={`/api/v1/lessons/${lesson.id}/take-home.pdf`} target="_blank" rel="noreferrer">
          {t("common-pdf")}
        </FileButton>
        <FileButton href={`/api/v1/lessons/${lesson.id}/schedule.ics`}>{t("common-add-calendar")}</FileButton>
      </div>
      <p>
        {until
          ? t("take-home-until-link-opens-page-practice", {
              day: datedDay(until.slice(0, 10)),
            })
          : t("take-home-link-student-can-read-page")}
      </p>
      {address && until && (
        <p className="flex flex-col gap-2">
          <a href={path ?? ""} className="break-all underline underline-offset-4">
            {address}
          </a>
          <span className="text-sm text-soft">{t("take-home-shown-only-now-new-link")}</span>
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button disabled={makeLink.isPending} onClick={() => makeLink.mutate()}>
          {until ? t("take-home-create-new-link") : t("common-create-link")}
        </Button>
        {address && until && (
          <Button onClick={() => navigator.clipboard?.writeText(address)}>{t("common-copy-link")}</Button>
        )}
        {until && (
          <Button
            disabled={endLink.isPending}
            onClick={() => endLink.mutate(undefined, { onSuccess: () => makeLink.reset() })}
          >
            {t("take-home-delete-link")}
          </Button>
        )}
      </div>
      {makeLink.isError && <Notice error={makeLink.error} />}
    </section>
  );
}
