import { useState } from "react";
import type { Knowledge } from "../../api/queries";
import { t, word } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { TextField, WordsField } from "../../shared/ui/Field";
import { type Changes, type Row, withField, withRow } from "./changes";
import { Numbers } from "./Numbers";
import { SpeaksGrid } from "./SpeaksGrid";
import { keyOf, nameOf, type Shipped, shippedRows, type Table } from "./tables";

type Props = {
  table: Table;
  id: string;
  shipped: Shipped;
  knowledge: Knowledge;
  changes: Changes;
  mayEdit: boolean;
  onChange: (changes: Changes) => void;
};

const WORDS: Record<string, string> = {
  prior: "knowledge-prevalence-share-golfers",
  happens: "knowledge-description",
  seconds: "knowledge-time-takes",
  above: "knowledge-above",
  below: "knowledge-below",
  mark: "common-success-looks-like",
  fake: "common-common-fake",
  wanted: "common-first-sign-ball",
  ugly: "common-first-may-see",
  cue: "knowledge-field-cue",
  effect: "knowledge-field-effect",
  grades: "knowledge-field-grades",
  label: "knowledge-field-label",
  matchups: "knowledge-field-matchups",
  object: "knowledge-field-object",
  question: "knowledge-field-question",
  setup: "knowledge-field-setup",
  speaks: "knowledge-field-speaks",
};
const OWN_FIELDS: Partial<Record<Table, string[]>> = { check: ["moment", "view", "grades"] };

/** One entry's fields; each can be restored. */
export function EntryForm({ table, id, shipped, knowledge, changes, mayEdit, onChange }: Props) {
  const isOwn = id.startsWith("own-");
  const origin: Row = shippedRows(table, shipped).find((r) => keyOf(r) === id) ?? {};
  const changed = changes[table]?.[id] ?? {};
  const row = { ...origin, ...changed };
  const fields = [...(isOwn ? (OWN_FIELDS[table] ?? []) : []), ...(shipped.editable[table] ?? [])];

  function set(field: string, value: unknown) {
    onChange(withField(changes, table, id, field, value, isOwn ? undefined : origin[field]));
  }
  return (
    <section aria-label={nameOf(table, row)} className="flex flex-col gap-3">
      <div className="flex items-start justify-between gap-3">
        <h2 className="text-xl font-bold">{nameOf(table, row)}</h2>
        {mayEdit && Object.keys(changed).length > 0 && (
          <Button onClick={() => onChange(withRow(changes, table, id, null))}>
            {isOwn ? t("common-remove") : t("knowledge-restore-default")}
          </Button>
        )}
      </div>
      <fieldset disabled={!mayEdit} className="flex flex-col gap-3">
        {fields.map((field) => {
          const value = row[field];
          const name = field in WORDS ? t(WORDS[field] ?? "") : capital(word(field.replaceAll("_", "-")));
          const label = field in changed && !isOwn ? t("knowledge-changed-2", { name }) : name;
          if (field === "effect")
            return (
              <Numbers
                key={field}
                label={label}
                values={(value ?? {}) as Record<string, number>}
                shipped={(origin[field] ?? {}) as Record<string, number>}
                metrics={knowledge.metrics}
                onChange={(v) => set(field, v)}
              />
            );
          if (field === "speaks")
            return (
              <SpeaksGrid
                key={field}
                grades={(row.grades ?? []) as string[]}
                speaks={(value ?? {}) as Record<string, Record<string, number>>}
                causes={knowledge.causes}
                onChange={(v) => set(field, v)}
              />
            );
          if (typeof value === "boolean")
            return (
              <label key={field} className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  checked={value}
                  onChange={(e) => set(field, e.target.checked)}
                  className="h-5 w-5 accent-clay"
                />
                {label}
              </label>
            );
          if (value === null || value === undefined) return null;
          return <Plain key={field} label={label} value={value} onChange={(v) => set(field, v)} />;
        })}
      </fieldset>
    </section>
  );
}

/** A text, a number or a list of words. */
function Plain({ label, value, onChange }: { label: string; value: unknown; onChange: (value: unknown) => void }) {
  if (typeof value === "number")
    return (
      <TextField
        label={label}
        type="number"
        step="any"
        defaultValue={value}
        onChange={(text) => text !== "" && onChange(Number(text))}
        className="max-w-60"
      />
    );
  if (Array.isArray(value))
    return (
      <TextField
        label={t("knowledge-separated-commas", { label })}
        defaultValue={value.join(", ")}
        onChange={(text) =>
          onChange(
            text
              .split(",")
              .map((word) => word.trim().replaceAll(" ", "-"))
              .filter(Boolean),
          )
        }
      />
    );
  return <Words label={label} text={String(value)} onChange={onChange} />;
}

const A_LINE = 60;

/** Text on one or several lines; the kind stays as it was when opened. */
function Words({ label, text, onChange }: { label: string; text: string; onChange: (text: string) => void }) {
  const [long] = useState(text.length > A_LINE);
  const Field = long ? WordsField : TextField;
  return <Field label={label} defaultValue={text} onChange={onChange} />;
}
