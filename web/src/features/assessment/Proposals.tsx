import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { inside, t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { useActions } from "../lesson/LessonContext";
import { readingWords } from "./curves";

type Graded = { proposals: Schemas["Proposal"][]; graded: Record<string, string>; source: "recording" | "camera" };

/** Proposals of several swings: one press accepts all clear ones, others one by one. */
export function Proposed({ proposals, graded, source }: Graded) {
  const actions = useActions();
  const clear = proposals.filter((p) => !p.close && !(p.check in graded));
  return (
    <>
      {clear.length > 0 && (
        <Button
          className="mt-2"
          onClick={() => actions.grade.mutate({ ...Object.fromEntries(clear.map((p) => [p.check, p.grade])), source })}
        >
          {t("check-accept-2", {
            what: clear.length === 1 ? t("check-clear-answer") : t("check-clear-answers", { n: clear.length }),
          })}
        </Button>
      )}
      <Proposals
        proposals={proposals}
        graded={graded}
        onTake={(check, grade) => actions.grade.mutate({ [check]: grade, source })}
      />
    </>
  );
}

type ProposalsProps = {
  proposals: Schemas["Proposal"][];
  graded: Record<string, string>;
  onTake: (check: string, grade: string) => void;
};

/** Proposed answers with value and certainty; the coach accepts or ignores them. */
export function Proposals({ proposals, graded, onTake }: ProposalsProps) {
  const { checks, words } = useKnowledge();
  return (
    <table className="mt-1 w-full text-left">
      <caption className="sr-only">{t("check-answers-proposed-recordings")}</caption>
      <tbody>
        {proposals.map((p) => {
          const check = checks.find((c) => c.id === p.check);
          const [first] = p.readings;
          const same = graded[p.check] === p.grade;
          return (
            <tr key={p.check} className="border-b border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {check?.label ?? p.check}
                {first && (
                  <span className="block text-sm text-soft">
                    {t("check-value-axis-moment", {
                      value: readingWords(first),
                      axis: first.axis,
                      moment: inside(words.moment?.[first.at] ?? first.at),
                    })}
                  </span>
                )}
              </th>
              <td className="pr-2">
                <span className={p.grade === check?.grades[0] ? "" : "font-semibold text-clay"}>{word(p.grade)}</span>
                <span className="block text-sm text-soft">
                  {p.close ? t("check-close-limit-2") : t("check-clear")}
                  {p.swings > 1 && t("check-of", { agree: p.agree, swings: p.swings })}
                </span>
              </td>
              <td className="text-right">
                <Button
                  disabled={same}
                  onClick={() => onTake(p.check, p.grade)}
                  aria-label={t("check-for", {
                    act: same ? t("check-accepted") : t("check-accept"),
                    grade: word(p.grade),
                    check: check?.label ?? p.check,
                  })}
                >
                  {same ? t("check-accepted") : t("check-accept")}
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
