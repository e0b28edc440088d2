import { type FormEvent, useState } from "react";
import { type Academy, usePeopleActions } from "../../api/people";
import { t } from "../../shared/format/language";
import { languageName } from "../../shared/format/languageName";
import { UNITS } from "../../shared/format/units";
import { Button } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";
import { Select } from "../../shared/ui/Select";

const PAPERS = [
  { id: "A4", label: "A4" },
  { id: "Letter", label: "academy-letter" },
];

/** Name, time zone and defaults of the academy. */
export function NameAndDays({ academy }: { academy: Academy }) {
  const { changeAcademy } = usePeopleActions();
  const [name, setName] = useState(academy.name);
  return (
    <Section wide title={t("academy-academy-settings")}>
      <form
        className="flex w-full items-end gap-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          changeAcademy.mutate({ name });
        }}
      >
        <TextField
          className="grow"
          label={t("academy-academy-name")}
          value={name}
          onChange={setName}
          required
          maxLength={120}
        />
        <Button type="submit" disabled={name.trim() === academy.name}>
          {t("common-save")}
        </Button>
      </form>
      <Select
        label={t("common-time-zone")}
        value={academy.time_zone}
        options={academy.zones.map((zone) => ({ id: zone, label: zone.replaceAll("_", " ") }))}
        onChange={(time_zone) => changeAcademy.mutate({ time_zone })}
      />
      <Select
        label={t("academy-default-units")}
        value={academy.units}
        options={UNITS}
        onChange={(units) => changeAcademy.mutate({ units })}
      />
      <Select
        label={t("academy-paper-size")}
        value={academy.paper}
        options={PAPERS}
        onChange={(paper) => changeAcademy.mutate({ paper })}
      />
      {academy.languages.length > 1 && (
        <Select
          label={t("academy-default-language")}
          value={academy.language}
          options={academy.languages.map((id) => ({ id, label: languageName(id) }))}
          onChange={(language) => changeAcademy.mutate({ language })}
        />
      )}
      <ChooseOne
        label={t("academy-sign-everyone")}
        options={[
          { id: "no", label: "academy-password-second-factor-optional" },
          { id: "yes", label: "academy-password-second-factor" },
        ]}
        value={academy.asks_for_factor ? "yes" : "no"}
        onChange={(asks) => asks && changeAcademy.mutate({ asks_for_factor: asks === "yes" })}
      />
      {changeAcademy.isError && <Notice error={changeAcademy.error} />}
    </Section>
  );
}
