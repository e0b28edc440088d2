import { useQuery } from "@tanstack/react-query";
import { account, useAccountActions } from "../../api/account";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

/** Sessions, each with a button to end it. */
export function SignedIn() {
  const clock = useClock();
  const sessions = useQuery(account.sessions);
  const { endSession, endOthers } = useAccountActions();
  const rows = sessions.data ?? [];
  return (
    <Section title={t("account-signed")} says={t("account-session-ends-after-day-without")}>
      {sessions.isError && <Notice error={sessions.error} />}
      <ul className="w-full divide-y divide-rule border-y border-rule">
        {rows.map((row) => {
          const where = row.browser || row.address;
          return (
            <li key={row.id} className="flex min-h-14 items-center justify-between gap-3 py-1">
              <span>
                <span className="font-semibold">{where}</span> <span className="text-soft">{row.address}</span>
                <span className="block text-sm text-soft">
                  {row.here ? t("account-here") : ""}
                  {row.begun_at && t("account-since", { moment: clock.moment(row.begun_at) })}
                  {row.seen_at && t("account-last-seen", { moment: clock.moment(row.seen_at) })}
                </span>
              </span>
              {!row.here && (
                <Button aria-label={t("account-sign-out", { where })} onClick={() => endSession.mutate(row.id)}>
                  {t("common-sign-out")}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {rows.length > 1 && <Button onClick={() => endOthers.mutate()}>{t("account-sign-out-everywhere-else")}</Button>}
      {endSession.isError && <Notice error={endSession.error} />}
      {endOthers.isError && <Notice error={endOthers.error} />}
    </Section>
  );
}
