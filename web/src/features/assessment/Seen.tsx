import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { hyphens } from "../../shared/format/say";
import { KeyCap } from "../../shared/ui/Button";
import { LOOK_KEYS } from "./useGradeKeys";

const RESTS_ON: Record<string, string> = {
  still: "measured on a still",
  recording: "from a recording",
  camera: "from a film",
};

/** All answers so far, each coach's separately. */
export function Seen({ seen, onOpen }: { seen: Schemas["SeenOut"][]; onOpen: (id: string) => void }) {
  const checks = useKnowledge().checks;
  if (seen.length === 0) {
    return (
      <p className="mt-4 text-soft">
        <KeyCap>1</KeyCap> {t("is always OK; the next digits are the other answers.")} <KeyCap>{LOOK_KEYS.next}</KeyCap>{" "}
        {t("and")} <KeyCap>{LOOK_KEYS.before}</KeyCap> {t("move through the checks. What you did not see stays open.")}
      </p>
    );
  }
  const looks = checks.filter((c) => seen.some((s) => s.check === c.id));
  return (
    <table className="mt-4 w-full text-left">
      <caption className="mb-1 text-left font-semibold">{t("Answered so far")}</caption>
      <tbody>
        {looks.map((check) => (
          <tr key={check.id} className="border-b border-rule align-top">
            <th scope="row" className="py-1 pr-3 font-normal">
              {check.label}
            </th>
            <td className="py-1">
              {seen
                .filter((s) => s.check === check.id)
                .map((s) => (
                  <span key={s.coach} className="block">
                    <span className={s.grade === check.grades[0] ? "" : "font-semibold text-clay"}>
                      {hyphens(s.grade)}
                    </span>
                    <span className="text-sm text-soft">
                      {!s.mine && `, ${s.coach}`}
                      {RESTS_ON[s.source] && `, ${RESTS_ON[s.source]}`}
                      {s.source === "eye" && s.after_board && `, ${t("after the board was seen")}`}
                    </span>
                  </span>
                ))}
            </td>
            <td className="text-right">
              <button
                type="button"
                className="min-h-8 px-2 text-sm underline underline-offset-4"
                onClick={() => onOpen(check.id)}
              >
                {t("Change")}
                <span className="sr-only"> {check.label}</span>
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
