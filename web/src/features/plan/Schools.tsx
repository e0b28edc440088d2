import { useOwnSettings } from "../../api/account";
import { useKnowledge, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { ChooseOne } from "../../shared/ui/Field";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Schools: both sides stated, one chosen for this lesson or as default; only the order of drills changes. */
export function Schools() {
  const { lesson } = useDesk();
  const actions = useActions();
  const { schools } = useKnowledge();
  const session = useSession();
  const followed = { ...session.school, ...lesson.school };
  const usual = useOwnSettings();
  const own = Object.keys(lesson.school).length > 0;
  return (
    <details className="mt-4 border-t border-rule pt-2">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        {t("common-school")} {own && <span className="font-normal text-soft">{t("correct-lesson")}</span>}
      </summary>
      <p className="mb-3 text-sm text-soft">{t("common-choice-changes-order-drills-never")}</p>
      <div className="flex flex-col gap-4">
        {schools.map((school) => (
          <div key={school.id}>
            <ChooseOne
              label={school.question}
              options={school.sides.map((side) => ({
                id: side.id ?? "",
                label: <span className="block max-w-72 py-1.5 text-left text-sm leading-snug">{side.says}</span>,
              }))}
              value={followed[school.id] ?? ""}
              onChange={(side) => {
                const next = { ...followed };
                if (side) next[school.id] = side;
                else delete next[school.id];
                actions.move.mutate({ school: next });
              }}
            />
            <p className="mt-1 text-sm text-soft">{t("correct-data-can-show", { data: school.data })}</p>
          </div>
        ))}
      </div>
      {own && (
        <Button className="mt-3" disabled={usual.isPending} onClick={() => usual.mutate({ school: followed })}>
          {usual.isSuccess ? t("correct-saved-default") : t("correct-make-my-default")}
        </Button>
      )}
    </details>
  );
}
