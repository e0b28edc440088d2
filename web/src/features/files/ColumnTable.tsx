import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Select } from "../../shared/ui/Select";
import { TableHead } from "../../shared/ui/TableHead";
import { type ColumnUse, type Field, type Mapping, signWords, UNITS } from "./mapping";

type Props = {
  mapping: Mapping;
  guesses: Schemas["ColumnGuess"][];
  fields: Field[];
  onChange: (place: number, use: Partial<ColumnUse>) => void;
};

/** One row per column of the file: its content, meaning, unit and sign. */
export function ColumnTable({ mapping, guesses, fields, onChange }: Props) {
  const metrics = useKnowledge().metrics;
  return (
    <table className="w-full text-left text-sm">
      <TableHead
        titles={[
          t("import-column-first-cells"),
          t("import-is-3"),
          t("import-in"),
          t("import-sides-2"),
          t("import-because"),
        ]}
      />
      <tbody>
        {mapping.columns.map((use, i) => {
          const guess = guesses[i];
          const field = fields.find((f) => f.id === use.field);
          const units = UNITS[field?.kind ?? ""] ?? [];
          const same = guess && guess.use.field === use.field;
          return (
            <tr
              key={i}
              className={`border-b border-rule align-top ${same && !guess.sure && use.field ? "bg-straw-ground" : ""}`}
            >
              <th scope="row" className="py-1.5 pr-3 font-semibold">
                {use.header || t("import-no-name")}
                <span className="block max-w-60 truncate font-normal text-soft">{guess?.samples.join(" · ")}</span>
              </th>
              <td className="py-1 pr-2">
                <Select
                  className="w-40"
                  value={use.field}
                  name={t("import-meaning", { header: use.header })}
                  options={[{ id: "", label: t("import-left-out") }, ...fields]}
                  onChange={(field) => onChange(i, { field })}
                />
              </td>
              <td className="py-1 pr-2">
                {units.length > 1 && (
                  <Select
                    className="w-20"
                    value={use.unit}
                    name={t("import-unit", { header: use.header })}
                    options={units}
                    onChange={(unit) => onChange(i, { unit })}
                  />
                )}
                {units.length === 1 && <span className="inline-block py-2.5">{units[0]?.label}</span>}
              </td>
              <td className="py-1 pr-2">
                {field?.sided &&
                  (guess?.letters && same ? (
                    <span className="inline-block py-2.5">{t("import-letters")}</span>
                  ) : (
                    <span className="flex items-center gap-2">
                      <Select
                        className="w-36"
                        value={use.sign ?? "plus"}
                        name={t("import-sides", { header: use.header })}
                        options={signWords(field, metrics)}
                        onChange={(sign) => onChange(i, { sign })}
                      />
                      <SideDrawing field={field.id} sign={use.sign ?? "plus"} />
                    </span>
                  ))}
              </td>
              <td className="py-2.5 text-soft">{same ? guess.reasons.join("; ") : t("import-set")}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const UPRIGHT = new Set(["attack_deg", "strike_high_mm"]);

/** A ball seen from behind with the direction of a value of plus three. */
function SideDrawing({ field, sign }: { field: string; sign: string }) {
  const toward = sign === "minus" ? -1 : 1;
  const [x, y] = UPRIGHT.has(field) ? [20, 20 - toward * 14] : [20 + toward * 14, 10];
  return (
    <svg
      viewBox="0 0 40 40"
      className="h-10 w-10 shrink-0"
      role="img"
      aria-label={t("import-positive-values-mean", {
        way: UPRIGHT.has(field)
          ? toward > 0
            ? t("import-up")
            : t("import-down")
          : toward > 0
            ? t("common-right-2")
            : t("common-left-2"),
      })}
    >
      <path d="M20 36V4" className="stroke-rule" strokeDasharray="2 3" />
      <circle cx="20" cy="30" r="4" className="fill-sheet stroke-ink" />
      <path d={`M20 ${UPRIGHT.has(field) ? 20 : 26}L${x} ${y}`} className="stroke-clay" strokeWidth="2.5" />
      <circle cx={x} cy={y} r="3" className="fill-clay" />
    </svg>
  );
}
