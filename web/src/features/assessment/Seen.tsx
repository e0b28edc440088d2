import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { t, word } from "../../shared/format/language";
import { KeyCap } from "../../shared/ui/Button";
import { CHECK_KEYS } from "./useGradeKeys";

const RESTS_ON: Record<string, string> = {
  still: "check-measured-still",
  recording: "check-recording-2",
  camera: "check-film",
};

/** All answers so far, each coach's separately. */
export function Seen({ seen, onOpen }: { seen: Schemas["SeenOut"][]; onOpen: (id: string) => void }) {
  const known = useKnowledge().checks;
  if (seen.length === 0) {
    return (
      <p className="mt-4 text-soft">
        <KeyCap>1</KeyCap> {t("check-always-ok-next-digits-other")} <KeyCap>{CHECK_KEYS.next}</KeyCap> {t("check-and")}{" "}
        <KeyCap>{CHECK_KEYS.before}</KeyCap> {t("check-move-through-checks-what-did")}
      </p>
    );
  }
  const checks = known.filter((c) => seen.some((s) => s.check === c.id));
  return (
    <table className="mt-4 w-full text-left">
      <caption className="mb-1 text-left font-semibold">{t("check-answered-so-far")}</caption>
      <tbody>
        {checks.map((check) => (
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
                      {word(s.grade)}
                    </span>
                    <span className="text-sm text-soft">
                      {!s.mine && `, ${s.coach}`}
                      {s.source in RESTS_ON && `, ${t(RESTS_ON[s.source] ?? "")}`}
                      {s.source === "eye" && s.after_board && `, ${t("check-after-board-seen")}`}
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
                {t("check-change")}
                <span className="sr-only"> {check.label}</span>
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
