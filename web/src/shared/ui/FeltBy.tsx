import { t } from "../format/language";
import { ChooseOne } from "./Field";

type Way = { id: string; label: string; how: string };
type Props = { ways: Way[]; value: string; onChange: (way: string) => void };

/** Choose a feel of the drill and read its sentence. */
export function FeltBy({ ways, value, onChange }: Props) {
  const chosen = ways.find((way) => way.id === value);
  if (ways.length === 0) return null;
  return (
    <div>
      <ChooseOne label={t("common-feel")} options={ways} value={value} onChange={onChange} />
      {chosen && <p className="mt-1 max-w-prose">{chosen.how}</p>}
    </div>
  );
}
