import type { Schemas } from "../../api/client";
import { t, word } from "../../shared/format/language";

type Score = Schemas["Score"];

/** What was hidden, and how the coach did. */
export function HowItWent({ score, wide = false }: { score: Score; wide?: boolean }) {
  return (
    <dl className={wide ? "grid gap-x-6 gap-y-2 md:grid-cols-3" : "flex flex-col gap-2"}>
      <Line asks={t("practice-lessons-hidden")}>
        {score.faults.map((fault) => (
          <span key={fault.id} className="block font-semibold">
            {fault.label}
            {score.faults.length > 1 && (
              <span className="font-normal text-soft">
                {" "}
                · {fault.leads ? t("practice-lessons-leads") : t("practice-lessons-weaker")}
              </span>
            )}
          </span>
        ))}
      </Line>
      <Line asks={t("practice-lessons-cause")} good={score.right_cause}>
        {causeOf(score)}
      </Line>
      <Line asks={t("practice-lessons-claim")} good={score.right_claim}>
        {claimOf(score)}
      </Line>
      <Line asks={t("common-checks")} good={allOf(score.checks_right, score.checks.length)}>
        {score.checks.length
          ? t("practice-lessons-correct", { right: score.checks_right, all: score.checks.length })
          : t("practice-lessons-none-answered")}
        {score.checks
          .filter((check) => check.grade !== check.true_grade)
          .map((check) => (
            <span key={check.check} className="block text-sm text-soft">
              {t("practice-lessons-saw", {
                check: check.label,
                grade: word(check.grade),
                true_grade: word(check.true_grade),
              })}
            </span>
          ))}
      </Line>
      <Line asks={t("common-movement")} good={allOf(score.marks_right, score.marks)}>
        {score.marks
          ? t("practice-lessons-marks-correct", { right: score.marks_right, all: score.marks })
          : t("practice-lessons-no-mark-compare")}
      </Line>
      <Line asks={t("practice-lessons-used")}>{t("common-balls-4", { n: score.balls })}</Line>
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
  if (score.corrected == null) return t("practice-lessons-none-corrected");
  if (score.leading_cause) return t("practice-lessons-leading-one", { cause: score.corrected });
  return score.right_cause
    ? t("practice-lessons-but-another-one-led", { cause: score.corrected })
    : t("practice-lessons-golfer-did-not", { cause: score.corrected });
}

export function claimOf(score: Score): string {
  if (score.corrected == null) return t("practice-lessons-none-no-correction");
  if (score.right_claim == null) return t("practice-lessons-no-verdict-yet-too-few");
  const verified = score.outcome === "verified";
  if (score.right_claim)
    return verified
      ? t("practice-lessons-verified-correctly")
      : t("practice-lessons-not-supported-correctly-another-cause");
  return verified
    ? t("practice-lessons-verified-although-cause-another-one")
    : t("practice-lessons-not-supported-although-cause-right");
}
