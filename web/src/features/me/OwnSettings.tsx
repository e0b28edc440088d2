import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { account, useOwnSettings } from "../../api/account";
import { queries, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { languageName } from "../../shared/format/languageName";
import { UNITS } from "../../shared/format/units";
import { Button } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";
import { ClickerKeys } from "./ClickerKeys";

/** Preferences: name, units, language, clicker, schools. */
export function OwnSettings() {
  const session = useSession();
  const languages = useQuery(account.has).data?.languages ?? [];
  const keep = useOwnSettings();
  const teaches = session.role !== "desk" && !session.needs_factor;
  return (
    <>
      <Section title={t("account-preferences")}>
        <OwnName />
        <ChooseOne
          label={t("account-units-distance-speed")}
          options={UNITS}
          value={session.units}
          onChange={(units) => units && keep.mutate({ units })}
        />
        {languages.length > 1 && (
          <ChooseOne
            label={t("account-language")}
            options={languages.map((id) => ({ id, label: languageName(id) }))}
            value={session.language}
            onChange={(language) => language && keep.mutate({ language })}
          />
        )}
        {keep.isError && <Notice error={keep.error} />}
      </Section>
      {teaches && <ClickerKeys />}
      {teaches && <OwnSchool />}
    </>
  );
}

function OwnName() {
  const session = useSession();
  const [name, setName] = useState(session.name);
  const keep = useOwnSettings();
  return (
    <form
      className="flex w-full items-end gap-2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate({ name });
      }}
    >
      <TextField
        className="grow"
        label={t("account-name-students-see")}
        value={name}
        onChange={setName}
        required
        maxLength={120}
      />
      <Button type="submit" disabled={keep.isPending || name.trim() === session.name}>
        {t("common-save")}
      </Button>
      {keep.isError && <Notice error={keep.error} />}
    </form>
  );
}

/** The coach's usual side where practitioners disagree; a lesson may use another. */
function OwnSchool() {
  const { school } = useSession();
  const schools = useQuery(queries.knowledge).data?.schools ?? [];
  const keep = useOwnSettings();
  return (
    <Section title={t("common-school")} says={t("common-choice-changes-order-drills-never")}>
      {schools.map((one) => (
        <ChooseOne
          key={one.id}
          label={one.question}
          options={one.sides.map((side) => ({
            id: side.id ?? "",
            label: <span className="block max-w-96 py-1.5 text-left text-sm leading-snug">{side.says}</span>,
          }))}
          value={school[one.id] ?? ""}
          onChange={(side) => {
            const { [one.id]: _, ...others } = school;
            keep.mutate({ school: side ? { ...others, [one.id]: side } : others });
          }}
        />
      ))}
      {keep.isError && <Notice error={keep.error} />}
    </Section>
  );
}
