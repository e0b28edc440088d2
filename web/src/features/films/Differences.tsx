import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { TableHead } from "../../shared/ui/TableHead";

type Row = Schemas["Difference"];

/** Differences of the body at one moment, each with its 90 % range. */
export function Differences({ rows, moment }: { rows: Row[]; moment: string }) {
  return (
    <table className="w-full text-left">
      <caption className="mb-1 text-left font-semibold">{moment}</caption>
      <TableHead titles={[t("films-body"), t("common-before"), t("common-now"), t("films-change-90-interval")]} />
      <tbody>
        {rows.map((row) => (
          <tr key={row.series} className={`border-b border-rule ${row.clear ? "" : "text-soft"}`}>
            <th scope="row" className="py-1 pr-3 font-normal">
              {row.label}
            </th>
            <td className="pr-3">{value(row.before, row.unit)}</td>
            <td className="pr-3">{value(row.now, row.unit)}</td>
            <td className={row.clear ? "font-semibold" : ""}>
              {row.clear
                ? t("films-to", {
                    change: value(row.difference, row.unit),
                    low: signed(row.range[0]),
                    high: signed(row.range[1]),
                  })
                : t("films-no-difference-found")}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const value = (number: number, unit: string) => `${signed(number)}${unit === "°" ? "" : " "}${unit}`;
