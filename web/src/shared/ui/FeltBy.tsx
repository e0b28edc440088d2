import { t } from "../format/language";
import { ChooseOne } from "./Field";

type Feel = { id: string; label: string; how: string };
type Props = { feels: Feel[]; value: string; onChange: (feel: string) => void };

/** Choose a feel of the drill and read its sentence. */
export function FeltBy({ feels, value, onChange }: Props) {
  const chosen = feels.find((feel) => feel.id === value);
  if (feels.length === 0) return null;
  return (
    <div>
      <ChooseOne label={t("common-feel")} options={feels} value={value} onChange={onChange} />
      {chosen && <p className="mt-1 max-w-prose">{chosen.how}</p>}
    </div>
  );
}
