import { useQuery } from "@tanstack/react-query";
import { people } from "../../api/people";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Select } from "../../shared/ui/Select";
import { LATELY, type Wanted } from "./roster";

type Props = {
  wanted: Wanted;
  onChange: (wanted: Wanted) => void;
  archived: boolean;
  onArchived: (archived: boolean) => void;
};

/** A student by name, coach and when they were last seen; those that were archived are a list of their own. */
export function Finder({ wanted, onChange, archived, onArchived }: Props) {
  const colleagues = useQuery(people.colleagues);
  const everyone = { id: "", label: t("Every coach") };
  return (
    <div className="mb-4 flex flex-wrap items-end gap-3" role="search">
      <TextField
        label={t("Find by name")}
        type="search"
        className="min-w-48 grow"
        value={wanted.words}
        onChange={(words) => onChange({ ...wanted, words })}
        autoComplete="off"
      />
      <Select
        label={t("Taught by")}
        value={wanted.coach}
        options={[everyone, ...(colleagues.data ?? []).map((one) => ({ id: String(one.id), label: one.name }))]}
        onChange={(coach) => onChange({ ...wanted, coach })}
      />
      <Select
        label={t("Last seen")}
        value={wanted.lately}
        options={LATELY.map((days) => ({ id: days, label: days ? t("in {days} days", { days }) : t("whenever") }))}
        onChange={(lately) => onChange({ ...wanted, lately })}
      />
      <Button aria-pressed={archived} onClick={() => onArchived(!archived)}>
        {t("Archived")}
      </Button>
    </div>
  );
}
