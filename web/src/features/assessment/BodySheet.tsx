import type { Schemas } from "../../api/client";
import { t } from "../../shared/format/language";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions } from "../lesson/LessonContext";

const GRADES = [
  { id: "free", label: "Free" },
  { id: "short", label: "Short" },
  { id: "pain", label: "Pain" },
];

type Props = { told: Schemas["BodyOut"]; onClose: () => void };

/** The body tests: how each is done, what is enough, and one touch a part; kept as they are touched. */
export function BodySheet({ told, onClose }: Props) {
  const { testBody } = useActions();
  const grades = new Map(told.results.map((r) => [r.part, r.grade]));
  return (
    <Sheet title={t("What this body can do")} told={told.caution} open wide onClose={onClose}>
      <div className="flex flex-col gap-5">
        {told.tests.map(({ test, parts, left_out }) => (
          <section key={test.id} aria-label={test.label} className="border-t border-rule pt-3">
            <h3 className="text-lg font-semibold">{test.label}</h3>
            <p className="max-w-prose">{test.how}</p>
            <p className="max-w-prose text-soft">{t("Enough: {what}", { what: test.enough })}</p>
            {left_out ? (
              <p className="mt-1 text-plum">{left_out}</p>
            ) : (
              <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2">
                {parts.map((part) => (
                  <ChooseOne
                    key={part.id}
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
