import { useQuery } from "@tanstack/react-query";
import { account, useAccountActions } from "../../api/account";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Section } from "../../shared/ui/Section";

/** Account notices; new ones stand out until confirmed. */
export function Heard() {
  const clock = useClock();
  const notices = useQuery(account.notices).data ?? [];
  const { see } = useAccountActions();
  const fresh = notices.filter((notice) => !notice.seen_at);
  const old = notices.filter((notice) => notice.seen_at).slice(0, 8);
  if (notices.length === 0) return null;
  return (
    <Section title={t("common-account")}>
      {fresh.length > 0 && (
        <Callout as="div" tone="straw" className="w-full">
          <ul>
            {fresh.map((notice) => (
              <li key={`${notice.at} ${notice.text}`}>
                {notice.text} <span className="text-sm">{clock.moment(notice.at)}</span>
              </li>
            ))}
          </ul>
          <p className="mt-2 text-sm">{t("account-wasnt-change-password-sign-out")}</p>
          <Button className="mt-2" disabled={see.isPending} onClick={() => see.mutate()}>
            {t("account-me")}
          </Button>
        </Callout>
      )}
      {old.length > 0 && (
        <ul className="text-sm text-soft">
          {old.map((notice) => (
            <li key={`${notice.at} ${notice.text}`}>
              {clock.moment(notice.at)}: {notice.text}
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
