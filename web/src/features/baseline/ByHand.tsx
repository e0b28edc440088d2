import { useState } from "react";
import { t } from "../../shared/format/language";

import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { useActions } from "../lesson/LessonContext";

const STARTS = [
  ["far-left", "far left"],
  ["left", "left"],
  ["straight", "on line"],
  ["right", "right"],
  ["far-right", "far right"],
] as const;
const CURVES = [
  ["hard-left", "hard left"],
  ["left", "left"],
  ["straight", "none"],
  ["right", "right"],
  ["hard-right", "hard right"],
] as const;
const CONTACTS = ["clean", "thin", "fat", "heel", "toe", "shank", "topped", "sky"];

/** A ball in three touches, for a bay without a monitor: start, curve, contact; the third saves it. */
export function ByHand({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const [start, setStart] = useState("straight");
  const [curve, setCurve] = useState("straight");
  return (
    <section aria-label={t("Add a ball by hand")} className="flex flex-col gap-3 border border-rule bg-sheet p-3">
      <Touches label={t("Started")} words={STARTS} value={start} onTouch={setStart} />
      <Touches label={t("Curved")} words={CURVES} value={curve} onTouch={setCurve} />
      <div role="group" aria-label={t("Contact (saves the ball)")}>
        <div className="mb-1 text-sm text-soft">{t("Contact (saves the ball)")}</div>
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
              {contact}
            </Button>
          ))}
        </div>
      </div>
      {actions.addByHand.isError && <Notice error={actions.addByHand.error} />}
      <div className="flex items-center justify-between">
        <p className="text-sm text-soft">{t("Words are coarse. They are stored as words, not as measurements.")}</p>
        <Button onClick={onClose}>{t("Done")}</Button>
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
            {text}
          </Button>
        ))}
      </div>
    </div>
  );
}
