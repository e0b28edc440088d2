import type { ReactNode } from "react";
import { t } from "../format/language";
import { TableHead } from "../ui/TableHead";

type Props = { titles: readonly string[]; rows: { id: number; cells: ReactNode[] }[] };

/** The table behind a chart: one row per ball. */
export function AsTable({ titles, rows }: Props) {
  return (
    <details className="text-sm text-soft">
      <summary className="min-h-6 cursor-pointer">{t("common-table")}</summary>
      <table className="w-full text-left">
        <TableHead titles={titles} />
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              {row.cells.map((cell, i) => (
                <td key={titles[i]}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
