import type { Schemas } from "../../api/client";
import { counted, t } from "../../shared/format/language";
import { hyphens } from "../../shared/format/say";

type Score = Schemas["Score"];

/** What was hidden, and how the coach did. */
export function HowItWent({ score, wide = false }: { score: Score; wide?: boolean }) {
  return (
    <dl className={wide ? "grid gap-x-6 gap-y-2 md:grid-cols-3" : "flex flex-col gap-2"}>
      <Line asks={t("Hidden")}>
        {score.faults.map((fault) => (
          <span key={fault.id} className="block font-semibold">
            {fault.label}
            {score.faults.length > 1 && (
              <span className="font-normal text-soft"> · {fault.leads ? t("leads") : t("weaker")}</span>
            )}
          </span>
        ))}
      </Line>
      <Line asks={t("Your cause")} good={score.right_cause}>
        {causeOf(score)}
      </Line>
      <Line asks={t("Your claim")} good={score.right_claim}>
        {claimOf(score)}
      </Line>
      <Line asks={t("Checks")} good={allOf(score.looks_right, score.looks.length)}>
        {score.looks.length
          ? t("{right} of {all} correct", { right: score.looks_right, all: score.looks.length })
          : t("none answered")}
        {score.looks
          .filter((look) => look.grade !== look.true_grade)
          .map((look) => (
            <span key={look.look} className="block text-sm text-soft">
              {t("{look}: you saw {grade}, it was {true_grade}", {
                look: look.label,
                grade: hyphens(look.grade),
                true_grade: hyphens(look.true_grade),
              })}
            </span>
          ))}
      </Line>
      <Line asks={t("Movement")} good={allOf(score.marks_right, score.marks)}>
        {score.marks
          ? t("{right} of {all} marks correct", { right: score.marks_right, all: score.marks })
          : t("no mark to compare with")}
      </Line>
      <Line asks={t("Used")}>{counted(score.balls, "{n} ball", "{n} balls")}</Line>
    </dl>
  );
}

type LineProps = { asks: string; good?: boolean | null; children: React.ReactNode };

function Line({ asks, good, children }: LineProps) {
  return (
    <div>
      <dt className="text-sm text-soft">{asks}</dt>
      <dd className={good === true ? "text-moss" : good === false ? "text-plum" : ""}>{children}</dd>
    </div>
  );
}

const allOf = (right: number, all: number): boolean | null => (all === 0 ? null : right * 3 >= all * 2);

export function causeOf(score: Score): string {
  if (score.corrected == null) return t("none was corrected");
  if (score.leading_cause) return t("{cause}: it was the leading one", { cause: score.corrected });
  return score.right_cause
    ? t("{cause}: it was there, but another one led", { cause: score.corrected })
    : t("{cause}: this golfer did not have it", { cause: score.corrected });
}

export function claimOf(score: Score): string {
  if (score.corrected == null) return t("none (no correction)");
  if (score.right_claim == null) return t("no verdict yet: too few marked balls");
  const verified = score.outcome === "verified";
  if (score.right_claim)
    return verified ? t("verified, correctly") : t("not supported, correctly: it was another cause");
  return verified
    ? t("verified, although the cause was another one: the balls changed for another reason")
    : t("not supported, although the cause was right");
}
