import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions } from "../lesson/LessonContext";

const GRADES = [
  { id: "free", label: "check-free" },
  { id: "short", label: "check-limited" },
  { id: "pain", label: "check-pain" },
];

type Props = { result: Schemas["BodyOut"]; onClose: () => void };

/** The body tests: instructions, what is OK, one touch per part; saved immediately. */
export function BodySheet({ result, onClose }: Props) {
  const { testBody } = useActions();
  const grades = new Map(result.results.map((r) => [r.part, r.grade]));
  return (
    <Sheet title={t("check-body-screen")} result={result.caution} open wide onClose={onClose}>
      <div className="flex flex-col gap-2">
        {result.tests.map(({ test, parts, left_out }) => (
          <section
            key={test.id}
            aria-label={test.label}
            className="grid gap-x-8 gap-y-2 border-t border-rule pt-2 md:grid-cols-[minmax(0,1fr)_25rem]"
          >
            <div>
              <h3 className="font-semibold">{test.label}</h3>
              <p className="leading-snug">{test.how}</p>
              <p className="leading-snug text-soft">{t("check-ok-if", { what: test.enough })}</p>
            </div>
            {left_out ? (
              <p className="mt-1 text-plum">{left_out}</p>
            ) : (
              <div className="flex flex-col gap-1">
                {parts.map((part) => (
                  <ChooseOne
                    key={part.id}
                    beside
                    label={part.label}
                    options={GRADES}
                    value={grades.get(part.id) ?? ""}
                    onChange={(grade) => testBody.mutate({ [part.id]: grade })}
                  />
                ))}
              </div>
            )}
          </section>
        ))}
      </div>
      {testBody.isError && <Notice error={testBody.error} />}
    </Sheet>
  );
}
