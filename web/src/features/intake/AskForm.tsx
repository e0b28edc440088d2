import { useState } from "react";
import { inside, t } from "../../shared/format/language";
import { type Units, YARD } from "../../shared/format/units";
import { Callout } from "../../shared/ui/Callout";
import { ChooseMany, ChooseOne, TextField } from "../../shared/ui/Field";
import { Tabs } from "../../shared/ui/Tabs";
import { type Answers, type AskWords, EMPTY_MISS, needsClinician, nextLimit, withLimit, withMiss } from "./ask";

const SIDES = [
  { id: "left", label: "ask-left" },
  { id: "straight", label: "ask-straight" },
  { id: "right", label: "ask-right" },
  { id: "both", label: "ask-both-sides" },
];

type Props = {
  answers: Answers;
  words: AskWords;
  caution: string;
  units: Units;
  /** Whether questions address the coach or the student. */
  who: string;
  group: string;
  faults?: { id: string; label: string }[];
  onChange: (answers: Answers) => void;
};

/** The intake: usual miss, feels, limits, equipment. Two minutes, by touch or keys. */
export function AskForm({ answers, words, caution, units, who, group: first, faults, onChange }: Props) {
  const [group, setGroup] = useState(first);
  const set = <K extends keyof Answers>(name: K, value: Answers[K]) => onChange({ ...answers, [name]: value });
  const miss = { ...EMPTY_MISS, ...answers.misses?.[group] };
  const options = (table: Record<string, string>) => Object.entries(table).map(([id, label]) => ({ id, label }));
  const factor = units === "yd-mph" ? YARD : 1;
  return (
    <div className="mx-auto grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-2">
      <section className="flex flex-col gap-4" aria-labelledby="ask-miss">
        <h2 id="ask-miss" className="text-2xl font-bold">
          {who === "you" ? t("ask-what-does-usual-miss-do") : t("ask-what-does-usual-miss-do-2", { who })}
        </h2>
        <Tabs
          label={t("ask-which-clubs")}
          tabs={options(words.club_group).map((g) => ({
            ...g,
            label: answers.misses?.[g.id] ? `${g.label} ✓` : g.label,
          }))}
          value={group}
          onChange={setGroup}
        />
        <ChooseOne
          label={t("ask-starts-seen-behind-ball")}
          options={SIDES}
          value={miss.start ?? ""}
          onChange={(start) => onChange(withMiss(answers, group, { start }))}
        />
        <ChooseOne
          label={t("ask-curves")}
          options={SIDES}
          value={miss.curve ?? ""}
          onChange={(curve) => onChange(withMiss(answers, group, { curve }))}
        />
        <TextField
          label={t("ask-misses", { unit: units === "yd-mph" ? t("ask-yd") : "m" })}
          type="number"
          min={0}
          max={130}
          className="max-w-52"
          value={miss.off_m === null || miss.off_m === undefined ? "" : String(Math.round(miss.off_m / factor))}
          onChange={(text) => onChange(withMiss(answers, group, { off_m: text === "" ? null : Number(text) * factor }))}
        />
        <ChooseMany
          label={t("ask-contact-feels")}
          options={options(words.contact)}
          value={answers.contact ?? []}
          onChange={(v) => set("contact", v)}
        />
        <ChooseMany
          label={t("ask-swing-feels")}
          options={options(words.feel)}
          value={answers.feels ?? []}
          onChange={(v) => set("feels", v)}
        />
        <TextField
          label={t("ask-good-one-feels-like")}
          value={answers.good_feel ?? ""}
          maxLength={300}
          onChange={(v) => set("good_feel", v)}
        />
        <TextField
          label={t("ask-working-moment")}
          value={answers.thoughts ?? ""}
          maxLength={300}
          onChange={(v) => set("thoughts", v)}
        />
        {faults && (
          <details>
            <summary className="min-h-8 cursor-pointer text-sm font-medium text-soft">
              {t("ask-old-faults", {
                how_many: answers.old_faults?.length ? `: ${answers.old_faults.length}` : "",
              })}
            </summary>
            <div className="mt-2">
              <ChooseMany
                label={t("ask-seen-earlier-lessons-here-elsewhere")}
                options={faults}
                value={answers.old_faults ?? []}
                onChange={(v) => set("old_faults", v)}
              />
            </div>
          </details>
        )}
      </section>
      <section className="flex flex-col gap-4" aria-labelledby="ask-body">
        <h2 id="ask-body" className="text-2xl font-bold">
          {t("ask-injuries-limits")}
        </h2>
        <div>
          <div className="mb-1.5 text-sm font-medium text-soft">{t("ask-tap-region-once-stiff-twice")}</div>
          <div className="flex flex-wrap gap-2">
            {options(words.region).map((region) => {
              const kind = answers.limits?.[region.id];
              return (
                <button
                  key={region.id}
                  type="button"
                  onClick={() => onChange(withLimit(answers, region.id, nextLimit(kind, Object.keys(words.limit))))}
                  className={`min-h-11 rounded-sm border px-4 ${kind === "pain" ? "border-plum bg-plum text-paper" : kind ? "border-ink bg-ink text-paper" : "border-rule bg-sheet hover:border-ink"}`}
                >
                  {region.label}
                  {kind && <span className="font-semibold">: {inside(words.limit[kind] ?? "")}</span>}
                </button>
              );
            })}
          </div>
        </div>
        <ChooseMany
          label={t("ask-does-any-apply")}
          options={options(words.health)}
          value={answers.health ?? []}
          onChange={(v) => set("health", v)}
        />
        <TextField
          label={t("ask-students-words")}
          value={answers.pain ?? ""}
          maxLength={300}
          onChange={(v) => set("pain", v)}
        />
        <Callout tone={needsClinician(answers) ? "plum" : "straw"}>
          {needsClinician(answers) && <b>{t("ask-ask-clinician-before-doing-anything")} </b>}
          {caution}
        </Callout>
        <TextField label={t("ask-goal")} value={answers.goal ?? ""} maxLength={300} onChange={(v) => set("goal", v)} />
        <ChooseMany
          label={t("ask-equipment-home")}
          options={options(words.kit)}
          value={answers.kit ?? []}
          onChange={(v) => set("kit", v)}
        />
      </section>
    </div>
  );
}
