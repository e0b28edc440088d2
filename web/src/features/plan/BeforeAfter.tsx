import type { Candidate } from "../../api/queries";
import { fixed, t } from "../../shared/format/language";
import { distance } from "../../shared/format/units";
import { TableHead } from "../../shared/ui/TableHead";
import { useDesk } from "../lesson/LessonContext";

type Pattern = NonNullable<Candidate["prediction"]>["before"];

/** The student's own balls before and as predicted; golfer frame in words. */
export function BeforeAfter({ prediction }: { prediction: NonNullable<Candidate["prediction"]> }) {
  const { units } = useDesk();
  const rows: [string, (p: Pattern) => string][] = [
    [t("Path"), (p) => sided(p.path_deg, t("in-to-out"), t("out-to-in"))],
    [t("Face to path"), (p) => sided(p.face_to_path_deg, t("open"), t("closed"))],
    [t("Starts"), (p) => sided(p.start_deg, t("to the trail side"), t("to the lead side"))],
    [
      t("Curves"),
      (p) =>
        `${distance(Math.abs(p.curve_m), units)} ${p.curve_m > 0 ? t("away from the lead side") : t("to the lead side")}`,
    ],
    [t("Carry"), (p) => distance(p.carry_m, units)],
    [t("Typical miss"), (p) => distance(p.offline_m, units)],
    [t("Poor contact"), (p) => `${Math.round(p.poor_contact * 100)} %`],
  ];
  return (
    <table className="max-w-2xl text-left">
      <TableHead titles={[t("Baseline median"), t("Now"), t("Predicted")]} />
      <tbody>
        {rows.map(([title, text]) => (
          <tr key={title} className="border-b border-rule">
            <th scope="row" className="py-1 pr-6 font-normal">
              {title}
            </th>
            <td className="pr-6">{text(prediction.before)}</td>
            <td className={text(prediction.before) === text(prediction.after) ? "text-soft" : "font-semibold"}>
              {text(prediction.after)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function sided(value: number, plus: string, minus: string): string {
  const size = Math.abs(value);
  return Number(size.toFixed(1)) === 0 ? "0°" : `${fixed(size, 1)}° ${value > 0 ? plus : minus}`;
}
