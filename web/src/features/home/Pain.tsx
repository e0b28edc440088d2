import type { Home } from "../../api/records";
import { inside, t } from "../../shared/format/language";
import { Callout } from "../../shared/ui/Callout";

/** Practice is stopped because of pain; only the coach can resume it. */
export function Pain({ region, home }: { region: string; home: Home }) {
  const where = inside(home.words.region[region] ?? region);
  return (
    <Callout as="section" tone="plum" role="alert" aria-label={t("student-page-practice-stopped")}>
      <h2 className="text-2xl font-bold text-plum">{t("student-page-practice-stopped")}</h2>
      <p className="mt-2 text-lg">{t("student-page-reported-pain-pain-not-part", { where })}</p>
      <p className="mt-2">{home.not_medical}</p>
      <p className="mt-2 font-semibold">
        {t("student-page-talk-before-continue-plan-opens", { coach: home.page.coach })}
      </p>
    </Callout>
  );
}
