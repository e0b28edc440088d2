import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Schemas, upload } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { fixed, inside, t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions, useDesk } from "../lesson/LessonContext";
import { VIEW_WORDS } from "./checks";
import { PictureIn } from "./PictureIn";
import { StillCanvas } from "./StillCanvas";
import { type Guide, nextStep, type Place, type Step, type Still } from "./stills";

type Props = { checkId: string; result: Schemas["StillsOut"]; onClose: () => void; onTake: (grade: string) => void };

/** Measure a check on pictures: one landmark after the other, then the value with its error and a proposed answer. */
export function StillSheet({ checkId, result, onClose, onTake }: Props) {
  const { lesson } = useDesk();
  const actions = useActions();
  const cache = useQueryClient();
  const check = useKnowledge().checks.find((c) => c.id === checkId);
  const [from, setFrom] = useState<Place | null>(null);
  const [length, setLength] = useState("95");
  const guide = result.guides.find((g) => g.check === checkId) as Guide;
  const still = result.stills.findLast((s) => s.check === checkId);
  const address = guide.since_address
    ? result.stills.findLast((s) => s.check === "" && s.view === guide.view)
    : undefined;
  const step = nextStep(guide, still, address);
  const send = useMutation({
    mutationFn: ({ file, which }: { file: File; which: string }) =>
      upload<Still>(
        `/api/v1/lessons/${lesson.id}/stills?check=${which === "address" ? "" : checkId}&view=${guide.view}`,
        file,
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["lesson", lesson.id] }),
  });
  const shown = "which" in step && step.which === "address" ? address : (still ?? address);

  function change(target: Still, body: Schemas["StillChange"]) {
    actions.changeStill.mutate({ id: target.id, body });
  }
  function place(at: Place) {
    if (!shown) return;
    if (step.do === "click") change(shown, { points: { ...shown.points, [step.landmark]: at } });
    if (step.do !== "scale") return;
    if (from) change(shown, { scale: { a: from, b: at, length_cm: Number(length) } });
    setFrom(from ? null : at);
  }
  function again(target: Still) {
    change(target, { dropped: true });
    setFrom(null);
  }
  return (
    <Sheet
      title={t("check-measure", { label: check?.label ?? checkId })}
      result={t("check-seen", { label: guide.label, view: t(VIEW_WORDS[guide.view] ?? "") })}
      open
      wide
      onClose={onClose}
    >
      <div className="grid gap-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <div>
          {shown && (
            <StillCanvas
              key={shown.id}
              still={shown}
              names={result.landmarks}
              asked={askedFor(step, from, result.landmarks)}
              from={step.do === "scale" ? from : null}
              onPlace={place}
              onMove={(name, at) => change(shown, { points: { ...shown.points, [name]: at } })}
            />
          )}
        </div>
        <div className="flex flex-col gap-3">
          <Callout tone="clay" className="text-lg" role="status">
            {instruction(step, guide, from, result.landmarks)}
          </Callout>
          {step.do === "add" && (
            <PictureIn
              label={
                step.which === "address"
                  ? t("check-picture-address")
                  : t("check-picture", { moment: word(guide.moment) })
              }
              pending={send.isPending}
              onPicture={(file) => send.mutate({ file, which: step.which })}
            />
          )}
          {step.do === "scale" && (
            <TextField
              label={t("check-known-length-cm-example-club")}
              type="number"
              min="2"
              max="400"
              value={length}
              onChange={setLength}
            />
          )}
          {still?.measured && <Result measured={still.measured} sound={check?.grades[0] ?? ""} onTake={onTake} />}
          {send.isError && <Notice error={send.error} />}
          {actions.changeStill.isError && <Notice error={actions.changeStill.error} />}
          <div className="mt-auto flex flex-wrap gap-2">
            {still && <Button onClick={() => again(still)}>{t("check-choose-another-picture")}</Button>}
            {address && <Button onClick={() => again(address)}>{t("check-choose-another-address-picture")}</Button>}
            {still && Object.keys(still.points).length > 0 && (
              <Button onClick={() => change(still, { points: {} })}>{t("check-clear-points")}</Button>
            )}
          </div>
          <p className="text-sm text-soft">{t("check-picture-shows-one-plane-points")}</p>
        </div>
      </div>
    </Sheet>
  );
}

function askedFor(step: Step, from: Place | null, names: Record<string, string>): string {
  if (step.do === "click") return inside(names[step.landmark] ?? step.landmark);
  if (step.do === "scale") return from ? t("check-other-end-known-length") : t("check-one-end-known-length");
  return "";
}

function instruction(step: Step, guide: Guide, from: Place | null, names: Record<string, string>): string {
  if (step.do === "add") {
    return step.which === "address"
      ? t("check-first-picture-address", { view: t(VIEW_WORDS[guide.view] ?? "") })
      : t("check-now-picture-same-camera", { moment: word(guide.moment) });
  }
  if (step.do === "done") return t("check-measured-drag-point-correct");
  const where = step.which === "address" ? t("check-address-picture") : "";
  return t("check-click", { askedFor: askedFor(step, from, names), where });
}

function Result({
  measured,
  sound,
  onTake,
}: {
  measured: Schemas["Measured"];
  sound: string;
  onTake: (grade: string) => void;
}) {
  const { value, error, grade } = measured;
  if (value === null || value === undefined || !grade) return null;
  return (
    <div>
      <p className="text-3xl font-bold tabular-nums">
        {fixed(value, 1)}
        {measured.unit === "°" ? "°" : ` ${measured.unit}`}
        <span className="text-lg font-normal text-soft">
          {" "}
          {t("check-measured-picture", { error: fixed(error ?? 0, 1) })}
        </span>
      </p>
      <p className="mb-2 text-lg">
        {t("check-proposed")}{" "}
        <span className={grade === sound ? "font-semibold" : "font-semibold text-clay"}>{word(grade)}</span>
        {measured.close && <span className="text-soft">{t("check-close-limit")}</span>}
      </p>
      <Button strong onClick={() => onTake(grade)}>
        {t("check-answer", { grade: word(grade) })}
      </Button>
    </div>
  );
}
