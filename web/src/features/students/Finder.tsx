import { useQuery } from "@tanstack/react-query";
import { people } from "../../api/people";
import type { Wanted } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Select } from "../../shared/ui/Select";

/** Days back that count as recent; empty for any time. */
const LATELY = ["", "7", "30", "90"];

type Props = { wanted: Wanted; onChange: (wanted: Wanted) => void };

/** Search students by name, coach and last visit; archived ones are a separate list. */
export function Finder({ wanted, onChange }: Props) {
  const colleagues = useQuery(people.colleagues);
  const everyone = { id: "", label: t("students-all-coaches") };
  return (
    <div className="mb-4 flex flex-wrap items-end gap-3" role="search">
      <TextField
        label={t("students-search-name")}
        type="search"
        className="min-w-48 grow"
        value={wanted.words}
        onChange={(words) => onChange({ ...wanted, words })}
        autoComplete="off"
      />
      <Select
        label={t("students-taught")}
        value={String(wanted.coach ?? "")}
        options={[everyone, ...(colleagues.data ?? []).map((one) => ({ id: String(one.id), label: one.name }))]}
        onChange={(coach) => onChange({ ...wanted, coach: coach ? Number(coach) : undefined })}
      />
      <Select
        label={t("students-last-seen")}
        value={String(wanted.days ?? "")}
        options={LATELY.map((days) => ({
          id: days,
          label: days ? t("students-days", { days }) : t("students-any-time"),
        }))}
        onChange={(days) => onChange({ ...wanted, days: days ? Number(days) : undefined })}
      />
      <Button aria-pressed={wanted.archived} onClick={() => onChange({ ...wanted, archived: !wanted.archived })}>
        {t("students-archived")}
      </Button>
    </div>
  );
}
