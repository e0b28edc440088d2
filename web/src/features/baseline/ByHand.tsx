import { useState } from "react";
import { t, word } from "../../shared/format/language";

import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { useActions } from "../lesson/LessonContext";

const STARTS = [
  ["far-left", "baseline-far-left"],
  ["left", "common-left-2"],
  ["straight", "baseline-line"],
  ["right", "common-right-2"],
  ["far-right", "baseline-far-right"],
] as const;
const CURVES = [
  ["hard-left", "baseline-hard-left"],
  ["left", "common-left-2"],
  ["straight", "baseline-none"],
  ["right", "common-right-2"],
  ["hard-right", "baseline-hard-right"],
] as const;
const CONTACTS = ["clean", "thin", "fat", "heel", "toe", "shank", "topped", "sky"];

/** A ball in three touches, for a bay without a monitor: start, curve, contact; the third saves it. */
export function ByHand({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const [start, setStart] = useState("straight");
  const [curve, setCurve] = useState("straight");
  return (
    <section aria-label={t("baseline-add-ball-hand")} className="flex flex-col gap-3 border border-rule bg-sheet p-3">
      <Touches label={t("baseline-started")} words={STARTS} value={start} onTouch={setStart} />
      <Touches label={t("baseline-curved")} words={CURVES} value={curve} onTouch={setCurve} />
      <div role="group" aria-label={t("baseline-contact-saves-ball")}>
        <div className="mb-1 text-sm text-soft">{t("baseline-contact-saves-ball")}</div>
        <div className="grid grid-cols-4 gap-1.5">
          {CONTACTS.map((contact) => (
            <Button
              key={contact}
              className="px-1"
              onClick={() => {
                actions.addByHand.mutate({ start, curve, contact });
                setStart("straight");
                setCurve("straight");
              }}
            >
              {word(contact)}
            </Button>
          ))}
        </div>
      </div>
      {actions.addByHand.isError && <Notice error={actions.addByHand.error} />}
      <div className="flex items-center justify-between">
        <p className="text-sm text-soft">{t("baseline-words-coarse-they-stored-words")}</p>
        <Button onClick={onClose}>{t("common-done")}</Button>
      </div>
    </section>
  );
}

function Touches({
  label,
  words,
  value,
  onTouch,
}: {
  label: string;
  words: readonly (readonly [string, string])[];
  value: string;
  onTouch: (id: string) => void;
}) {
  return (
    <div role="group" aria-label={label}>
      <div className="mb-1 text-sm text-soft">{label}</div>
      <div className="grid grid-cols-5 gap-1.5">
        {words.map(([id, text]) => (
          <Button key={id} className="px-1" aria-pressed={value === id} onClick={() => onTouch(id)}>
            {t(text)}
          </Button>
        ))}
      </div>
    </div>
  );
}
