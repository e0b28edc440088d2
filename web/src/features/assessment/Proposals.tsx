import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { inside, t } from "../../shared/format/language";
import { hyphens } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { useActions } from "../lesson/LessonContext";
import { readingWords } from "./curves";

type Graded = { proposals: Schemas["Proposal"][]; graded: Record<string, string>; source: "recording" | "camera" };

/** Proposals of several swings: one press accepts all clear ones, others one by one. */
export function Proposed({ proposals, graded, source }: Graded) {
  const actions = useActions();
  const clear = proposals.filter((p) => !p.close && !(p.look in graded));
  return (
    <>
      {clear.length > 0 && (
        <Button
          className="mt-2"
          onClick={() => actions.grade.mutate({ ...Object.fromEntries(clear.map((p) => [p.look, p.grade])), source })}
        >
          {t("Accept the {what}", {
            what: clear.length === 1 ? t("clear answer") : t("{n} clear answers", { n: clear.length }),
          })}
        </Button>
      )}
      <Proposals
        proposals={proposals}
        graded={graded}
        onTake={(look, grade) => actions.grade.mutate({ [look]: grade, source })}
      />
    </>
  );
}

type ProposalsProps = {
  proposals: Schemas["Proposal"][];
  graded: Record<string, string>;
  onTake: (look: string, grade: string) => void;
};

/** Proposed answers with value and certainty; the coach accepts or ignores them. */
export function Proposals({ proposals, graded, onTake }: ProposalsProps) {
  const { checks, words } = useKnowledge();
  return (
    <table className="mt-1 w-full text-left">
      <caption className="sr-only">{t("Answers proposed by recordings")}</caption>
      <tbody>
        {proposals.map((p) => {
          const check = checks.find((c) => c.id === p.look);
          const [first] = p.readings;
          const same = graded[p.look] === p.grade;
          return (
            <tr key={p.look} className="border-b border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {check?.label ?? p.look}
                {first && (
                  <span className="block text-sm text-soft">
                    {t("{value} {axis}, {moment}", {
                      value: readingWords(first),
                      axis: first.axis,
                      moment: inside(words.moment?.[first.at] ?? first.at),
                    })}
                  </span>
                )}
              </th>
              <td className="pr-2">
                <span className={p.grade === check?.grades[0] ? "" : "font-semibold text-clay"}>
                  {hyphens(p.grade)}
                </span>
                <span className="block text-sm text-soft">
                  {p.close ? t("close to the limit") : t("clear")}
                  {p.swings > 1 && t(", {agree} of {swings}", { agree: p.agree, swings: p.swings })}
                </span>
              </td>
              <td className="text-right">
                <Button
                  disabled={same}
                  onClick={() => onTake(p.look, p.grade)}
                  aria-label={t("{act}: {grade} for {look}", {
                    act: same ? t("Accepted") : t("Accept"),
                    grade: hyphens(p.grade),
                    look: check?.label ?? p.look,
                  })}
                >
                  {same ? t("Accepted") : t("Accept")}
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
