import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { Notice } from "../../shared/ui/Notice";
import { ColumnTable } from "./ColumnTable";
import { DraftPreview } from "./DraftPreview";
import { fieldsOf, type Mapping, withColumn } from "./mapping";

type Props = {
  result: { columns: Schemas["ColumnGuess"][]; notes: string[] };
  remembered: string | null;
  mapping: Mapping;
  preview: Schemas["Preview"];
  hand: string;
  error: Error | null;
  onChange: (mapping: Mapping) => void;
};

/** The meaning of every column, editable, and the first balls. */
export function Columns({ result, remembered, mapping, preview, hand, error, onChange }: Props) {
  const fields = fieldsOf(useKnowledge().metrics);
  return (
    <>
      <ul className="text-sm text-soft">
        {remembered && <li className="font-semibold text-moss">{remembered}</li>}
        {result.notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
      <ColumnTable
        mapping={mapping}
        guesses={result.columns}
        fields={fields}
        onChange={(place, use) => onChange(withColumn(mapping, place, use, fields))}
      />
      {error && <Notice error={error} />}
      <DraftPreview preview={preview} hand={hand} />
    </>
  );
}
