import { RadioGroup } from "radix-ui";
import { type Candidate, useKnowledge } from "../../api/queries";
import { DrillFigure } from "../../shared/charts/DrillFigure";
import { inside, quoted, t } from "../../shared/format/language";
import { FeltBy } from "../../shared/ui/FeltBy";
import { useDesk } from "../lesson/LessonContext";

type Choice = Candidate["drills"][number];
type Props = {
  drills: Choice[];
  chosen: Choice | undefined;
  onChoose: (drill: string) => void;
  feltBy: string;
  onFeltBy: (feel: string) => void;
};

/** The drills that fit and what each needs; the selected one drawn and described. */
export function DrillChoice({ drills, chosen, onChoose, feltBy, onFeltBy }: Props) {
  const { hand } = useDesk();
  const { words } = useKnowledge();
  const named = (kind: string, ids: string[], between: string) =>
    ids.map((id) => inside(words[kind]?.[id] ?? id)).join(between);
  return (
    <div className="grid gap-5 md:grid-cols-[17rem_minmax(0,1fr)]">
      <div>
        <RadioGroup.Root
          value={chosen?.drill.id ?? ""}
          onValueChange={onChoose}
          aria-label={t("common-drill")}
          className="grid gap-2"
        >
          {drills.map(({ drill: d, follows_school, scaled, short, at_home }) => (
            <RadioGroup.Item
              key={d.id}
              value={d.id}
              className="border border-rule bg-sheet px-3 py-2 text-left hover:border-ink data-[state=checked]:border-ink data-[state=checked]:shadow-[inset_4px_0_0_var(--color-clay)]"
            >
              <span className="block font-semibold">
                {d.name}
                {follows_school && <span className="font-normal text-soft">{t("correct-school")}</span>}
              </span>
              <span className="block">{quoted(d.cue)}</span>
              <span className="block text-sm text-soft">
                {d.object === "none" ? t("correct-no-object") : t("correct-needs", { object: d.object })}
              </span>
              {at_home === false && (
                <span className="block text-sm text-soft">
                  {d.home
                    ? t("correct-not-possible-home-needs", { kit: named("kit", d.kit, " / ") })
                    : t("correct-not-home-drill")}
                </span>
              )}
              {scaled.length > 0 && (
                <span className="block text-sm text-plum">
                  {t("correct-loads-use-half-range-half", {
                    scaled: named("region", scaled, ", "),
                  })}
                </span>
              )}
              {short.length > 0 && (
                <span className="block text-sm text-plum">
                  {t("correct-depends-what-limited-body", { parts: inside(short.join(", ")) })}
                </span>
              )}
            </RadioGroup.Item>
          ))}
        </RadioGroup.Root>
      </div>
      {chosen && (
        <div className="flex items-start gap-5 max-sm:flex-col lg:@max-[70rem]:flex-col">
          <DrillFigure
            drill={chosen.drill.id}
            hand={hand}
            title={chosen.drill.name}
            className="w-36 shrink-0 bg-sheet"
          />
          <div className="flex min-w-0 grow flex-col gap-3">
            <DrillSheet drill={chosen.drill} />
            <FeltBy feels={chosen.felt_by} value={feltBy} onChange={onFeltBy} />
          </div>
        </div>
      )}
    </div>
  );
}

function DrillSheet({ drill }: { drill: Choice["drill"] }) {
  const lines: [string, string][] = [
    [t("correct-set-up"), drill.setup],
    [t("common-success-looks-like"), drill.mark],
    [t("common-common-fake"), drill.fake],
    [t("common-first-sign-ball"), drill.wanted],
    [t("common-first-may-see"), drill.ugly],
    [t("correct-goes"), drill.matchups.join(", ")],
  ];
  return (
    <dl className="grid grid-cols-[8rem_minmax(0,1fr)] gap-x-4 gap-y-1 lg:@max-[70rem]:grid-cols-1">
      {lines
        .filter(([, text]) => text)
        .map(([title, text]) => (
          <div key={title} className="contents">
            <dt className="text-soft">{title}</dt>
            <dd>{text}</dd>
          </div>
        ))}
    </dl>
  );
}
