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
    [t("common-path"), (p) => sided(p.path_deg, t("common-out"), t("common-out-2"))],
    [t("common-face-path"), (p) => sided(p.face_to_path_deg, t("common-open-2"), t("common-closed-2"))],
    [t("correct-starts"), (p) => sided(p.start_deg, t("correct-trail-side"), t("correct-lead-side"))],
    [
      t("common-curves"),
      (p) =>
        `${distance(Math.abs(p.curve_m), units)} ${p.curve_m > 0 ? t("correct-away-lead-side") : t("correct-lead-side")}`,
    ],
    [t("common-carry"), (p) => distance(p.carry_m, units)],
    [t("correct-typical-miss"), (p) => distance(p.offline_m, units)],
    [t("correct-poor-contact"), (p) => `${Math.round(p.poor_contact * 100)} %`],
  ];
  return (
    <table className="max-w-2xl text-left">
      <TableHead titles={[t("correct-baseline-median"), t("common-now"), t("correct-predicted")]} />
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
