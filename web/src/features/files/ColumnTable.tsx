import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { type ColumnUse, type Field, type Mapping, signWords, UNITS } from "./mapping";

type Props = {
  mapping: Mapping;
  guesses: Schemas["ColumnGuess"][];
  fields: Field[];
  onChange: (place: number, use: Partial<ColumnUse>) => void;
};

const BOX = "min-h-11 rounded-sm border border-rule bg-sheet px-2";

/** A row a column of the file: what it says, what it becomes, in which unit, and where plus points. */
export function ColumnTable({ mapping, guesses, fields, onChange }: Props) {
  const metrics = useKnowledge().metrics;
  return (
    <table className="w-full text-left text-sm">
      <thead className="text-soft">
        <tr className="border-b border-ink">
          <th scope="col" className="py-1 font-medium">
            Column and its first cells
          </th>
          <th scope="col" className="font-medium">
            is
          </th>
          <th scope="col" className="font-medium">
            in
          </th>
          <th scope="col" className="font-medium">
            sides
          </th>
          <th scope="col" className="font-medium">
            because
          </th>
        </tr>
      </thead>
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
                {use.header || "(no name)"}
                <span className="block max-w-60 truncate font-normal text-soft">{guess?.samples.join(" · ")}</span>
              </th>
              <td className="py-1 pr-2">
                <select
                  className={`${BOX} w-40`}
                  value={use.field}
                  aria-label={`What ${use.header} is`}
                  onChange={(event) => onChange(i, { field: event.target.value })}
                >
                  <option value="">left out</option>
                  {fields.map((f) => (
                    <option key={f.id} value={f.id}>
                      {f.label}
                    </option>
                  ))}
                </select>
              </td>
              <td className="py-1 pr-2">
                {units.length > 1 && (
                  <select
                    className={`${BOX} w-20`}
                    value={use.unit}
                    aria-label={`Unit of ${use.header}`}
                    onChange={(event) => onChange(i, { unit: event.target.value })}
                  >
                    {units.map((u) => (
                      <option key={u.id} value={u.id}>
                        {u.label}
                      </option>
                    ))}
                  </select>
                )}
                {units.length === 1 && <span className="inline-block py-2.5">{units[0]?.label}</span>}
              </td>
              <td className="py-1 pr-2">
                {field?.sided &&
                  (guess?.letters && same ? (
                    <span className="inline-block py-2.5">letters</span>
                  ) : (
                    <span className="flex items-center gap-2">
                      <select
                        className={`${BOX} w-36`}
                        value={use.sign}
                        aria-label={`Sides of ${use.header}`}
                        onChange={(event) => onChange(i, { sign: event.target.value })}
                      >
                        {signWords(field, metrics).map((s) => (
                          <option key={s.id} value={s.id}>
                            {s.label}
                          </option>
                        ))}
                      </select>
                      <SideDrawing field={field.id} sign={use.sign ?? "plus"} />
                    </span>
                  ))}
              </td>
              <td className="py-2.5 text-soft">{same ? guess.reasons.join("; ") : "you said so"}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const UPRIGHT = new Set(["attack_deg", "strike_high_mm"]);

/** A ball seen from behind with the way that a plus three would go. */
function SideDrawing({ field, sign }: { field: string; sign: string }) {
  const toward = sign === "minus" ? -1 : 1;
  const [x, y] = UPRIGHT.has(field) ? [20, 20 - toward * 14] : [20 + toward * 14, 10];
  return (
    <svg
      viewBox="0 0 40 40"
      className="h-10 w-10 shrink-0"
      role="img"
      aria-label={`A plus points ${UPRIGHT.has(field) ? (toward > 0 ? "up" : "down") : toward > 0 ? "right" : "left"}`}
    >
      <path d="M20 36V4" className="stroke-rule" strokeDasharray="2 3" />
      <circle cx="20" cy="30" r="4" className="fill-sheet stroke-ink" />
      <path d={`M20 ${UPRIGHT.has(field) ? 20 : 26}L${x} ${y}`} className="stroke-clay" strokeWidth="2.5" />
      <circle cx={x} cy={y} r="3" className="fill-clay" />
    </svg>
  );
}
