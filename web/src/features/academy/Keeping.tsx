import { type Academy, usePeopleActions } from "../../api/people";
import { t } from "../../shared/format/language";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";
import { Select } from "../../shared/ui/Select";

const FOR_GOOD = { id: "", label: "academy-forever" };
const DAYS = [
  { id: "90", label: "academy-90-days" },
  { id: "180", label: "academy-six-months" },
  { id: "365", label: "academy-one-year" },
  { id: "730", label: "academy-two-years" },
  { id: "1825", label: "academy-five-years" },
];
const FILM_DAYS = [{ id: "0", label: "academy-not-all" }, { id: "30", label: "academy-30-days" }, ...DAYS.slice(0, 4)];
const YEARS = [1, 2, 3, 5, 10].map((n) => ({ id: String(n), label: `${n}` }));

/** Data retention: older data is deleted automatically and logged. */
export function Keeping({ academy }: { academy: Academy }) {
  const { changeAcademy } = usePeopleActions();
  const number = (id: string) => (id ? Number(id) : null);
  return (
    <Section wide title={t("academy-data-retention")} says={t("academy-older-data-deleted-within-hour")}>
      <Select
        label={t("academy-activity-log")}
        value={String(academy.keep_lines_days)}
        options={known(DAYS, academy.keep_lines_days)}
        onChange={(days) => changeAcademy.mutate({ keep_lines_days: Number(days) })}
      />
      <Select
        label={t("academy-films-swings-measurements-stay")}
        value={String(academy.keep_films_days)}
        options={known(FILM_DAYS, academy.keep_films_days)}
        onChange={(days) => changeAcademy.mutate({ keep_films_days: Number(days) })}
      />
      <Select
        label={t("academy-pictures-students-answers-stay")}
        value={String(academy.keep_pictures_days ?? "")}
        options={[FOR_GOOD, ...known(DAYS, academy.keep_pictures_days)]}
        onChange={(days) => changeAcademy.mutate({ keep_pictures_days: number(days) })}
      />
      <Select
        label={t("academy-students-who-no-longer-come")}
        value={String(academy.keep_students_years ?? "")}
        options={[FOR_GOOD, ...known(YEARS, academy.keep_students_years)]}
        onChange={(years) => changeAcademy.mutate({ keep_students_years: number(years) })}
      />
      {academy.students_due > 0 && (
        <Callout tone="clay" className="w-full">
          {t("academy-rule-will-erase-students-within", { n: academy.students_due })}
        </Callout>
      )}
      {changeAcademy.isError && <Notice error={changeAcademy.error} />}
    </Section>
  );
}

/** The choices, plus a value set by other means. */
function known(choices: { id: string; label: string }[], value: number | null) {
  const there = value === null || choices.some((choice) => choice.id === String(value));
  return there ? choices : [...choices, { id: String(value), label: String(value) }];
}
