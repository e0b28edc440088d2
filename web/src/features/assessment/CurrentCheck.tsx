import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Check, queries } from "../../api/queries";
import { SwingFigure } from "../../shared/charts/SwingFigure";
import { t, word } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { useDesk } from "../lesson/LessonContext";
import { VIEW_WORDS } from "./checks";
import { NOT_SEEN } from "./useGradeKeys";

type Props = {
  check: Check;
  grade?: string;
  worth: string;
  onGrade: (grade: string) => void;
  onMeasure?: () => void;
};

const DRAWN = "h-44 w-full lg:h-60";

/** One check: the question, and its answers as pictures that are buttons. */
export function CurrentCheck({ check, grade, worth, onGrade, onMeasure }: Props) {
  const { hand } = useDesk();
  const [view, setView] = useState("");
  const drawn = useQuery({
    ...queries.figure(check.id, hand, view),
    enabled: !check.id.startsWith("own-"),
    retry: false,
  });
  const picture = drawn.data;
  const other = picture?.view === "face-on" ? "down-the-line" : "face-on";
  return (
    <Callout as="div" tone="clay">
      <p className="text-soft">
        {capital(check.moment)}, {t(VIEW_WORDS[check.view] ?? "")} · {worth}
      </p>
      <h2 className="mt-0.5 text-2xl font-bold">{check.label}</h2>
      <p className="mb-3 text-lg">{check.question}</p>
      <div className="grid auto-cols-fr grid-flow-col gap-2">
        {check.grades.map((g, i) => {
          const figure = picture?.grades.find((p) => p.grade === g);
          return (
            <button
              key={g}
              type="button"
              aria-pressed={grade === g}
              onClick={() => onGrade(g)}
              className="flex min-h-14 flex-col items-center border border-rule bg-sheet px-2 pt-2 pb-1.5 hover:border-ink aria-pressed:border-ink aria-pressed:shadow-[inset_0_-4px_0_var(--color-clay)]"
            >
              {picture && figure && (
                <SwingFigure picture={picture} grade={figure} title={`${check.label}: ${word(g)}`} className={DRAWN} />
              )}
              {drawn.isLoading && <span className={DRAWN} />}
              <span className="flex items-center gap-2 text-lg font-medium">
                {word(g)} <KeyCap>{`${i + 1}`}</KeyCap>
              </span>
              {i === 0 && <span className="text-sm text-soft">{t("check-ok")}</span>}
            </button>
          );
        })}
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button keyName="0" onClick={() => onGrade(NOT_SEEN)}>
          {t("check-not-seen")}
        </Button>
        {picture && (
          <Button onClick={() => setView(other)}>{t("check-draw", { view: t(VIEW_WORDS[other] ?? "") })}</Button>
        )}
        {onMeasure && <Button onClick={onMeasure}>{t("check-measure-picture")}</Button>}
        {picture?.line_label && (
          <span className="text-sm text-soft">
            {picture.line_ink === "line" ? t("check-dashed") : t("check-yellow")}: {picture.line_label}
          </span>
        )}
      </div>
    </Callout>
  );
}
