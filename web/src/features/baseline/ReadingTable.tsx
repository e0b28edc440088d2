import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { say } from "../../shared/format/say";
import { inUnits, type Units } from "../../shared/format/units";
import { TableHead } from "../../shared/ui/TableHead";
import { useDesk } from "../lesson/LessonContext";

/** Median, spread and interval of every metric; inferred ones are marked. */
export function ReadingTable({ reading }: { reading: Schemas["BlockReading"] }) {
  const knowledge = useKnowledge();
  const { units } = useDesk();
  const rows = knowledge.metrics.flatMap((metric) => {
    const read = reading.metrics[metric.id];
    return read ? [{ metric, read }] : [];
  });
  return (
    <table className="w-full text-left">
      <caption className="mb-1 text-left font-semibold">
        {t("baseline-median-clean-balls", { n: reading.clean })}
      </caption>
      <TableHead
        titles={[t("common-number-2"), t("baseline-median"), t("baseline-varies"), t("baseline-probably-between")]}
      />
      <tbody>
        {rows.map(({ metric, read }) => (
          <tr key={metric.id} className="border-b border-rule">
            <th scope="row" className="py-1 font-normal">
              {metric.label}
              {read.origin === "inferred" && <em className="text-soft"> {t("common-inferred")}</em>}
            </th>
            <td className={read.origin === "inferred" ? "text-soft italic" : "font-semibold"}>
              {read.origin === "inferred" && t("common-about")}
              {say(metric, read.centre, units)}
            </td>
            <td>{read.spread === null ? "" : inUnits(read.spread, metric.unit, units)}</td>
            <td className="text-soft">{range(metric.unit, read.low, read.high, units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function range(unit: string, low: number | null, high: number | null, units: Units): string {
  if (low === null || high === null) return t("baseline-too-few-balls");
  return t("baseline-and", {
    low: inUnits(low, unit, units).replace("-", "−"),
    high: inUnits(high, unit, units).replace("-", "−"),
  });
}
