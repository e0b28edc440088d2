/** A column mapping as the coach edits it; no React. */
import type { Schemas } from "../../api/client";
import { labeled, t } from "../../shared/format/language";

export type Mapping = Schemas["MappingIn"];
export type ColumnUse = Schemas["ColumnUseIn"];
export type Field = { id: string; label: string; kind: string; sided: boolean };

export const UNITS: Record<string, { id: string; label: string }[]> = {
  speed: [
    { id: "mps", label: "m/s" },
    { id: "mph", label: "mph" },
    { id: "kmh", label: "km/h" },
  ],
  distance: [
    { id: "m", label: "m" },
    { id: "yd", label: "yd" },
    { id: "ft", label: "ft" },
  ],
  strike: [
    { id: "mm", label: "mm" },
    { id: "cm", label: "cm" },
    { id: "in", label: "in" },
  ],
  angle: [{ id: "deg", label: "°" }],
  spin: [{ id: "rpm", label: "rpm" }],
};

const WORKED_OUT: Field[] = [
  { id: "face_to_path_deg", label: "common-face-path", kind: "angle", sided: true },
  { id: "back_spin_rpm", label: "import-backspin", kind: "spin", sided: false },
  { id: "side_spin_rpm", label: "import-sidespin", kind: "spin", sided: true },
];
const TEXTS: Record<string, string> = {
  club: "common-club",
  at: "import-time",
  at_day: "common-day-2",
  at_clock: "import-time-day",
  hand: "import-field-hand",
  turf: "import-field-turf",
  movement: "common-movement",
  stage: "import-field-stage",
  intent: "import-field-intent",
  shot_id: "import-ball-id",
  note: "lesson-note",
};

/** All possible fields of a column, measured values first. */
export function fieldsOf(metrics: { id: string; label: string; kind: string; plus?: string }[]): Field[] {
  const own = metrics.map((m) => ({ id: m.id, label: m.label, kind: m.kind, sided: Boolean(m.plus) }));
  const texts = Object.entries(TEXTS).map(([id, label]) => ({ id, label: t(label), kind: "", sided: false }));
  return [...own, ...labeled(WORKED_OUT), ...texts];
}

/** Return the mapping with one column changed; a field belongs to one column only. */
export function withColumn(mapping: Mapping, place: number, change: Partial<ColumnUse>, fields: Field[]): Mapping {
  const columns = mapping.columns.map((column, i) => {
    if (i !== place) return change.field && column.field === change.field ? { ...column, field: "" } : column;
    const next = { ...column, ...change };
    const kind = fields.find((f) => f.id === next.field)?.kind ?? "";
    const units = UNITS[kind] ?? [];
    if (!units.some((u) => u.id === next.unit)) next.unit = units[0]?.id ?? "";
    if (change.field !== undefined) next.sign = "plus";
    return next;
  });
  return { ...mapping, columns };
}

/** Return in words where a column's positive numbers point, for that field. */
export function signWords(
  field: Field,
  metrics: { id: string; plus?: string; minus?: string; mirrored?: boolean }[],
): { id: string; label: string }[] {
  const metric = metrics.find((m) => m.id === field.id);
  if (metric && !metric.mirrored) {
    return [
      { id: "plus", label: t("import-is-2", { plus: metric.plus }) },
      { id: "minus", label: t("import-is", { minus: metric.minus }) },
    ];
  }
  return [
    { id: "plus", label: t("import-right") },
    { id: "minus", label: t("import-left") },
    { id: "golfer", label: t("import-is-2", { plus: metric?.plus ?? t("common-open-2") }) },
    { id: "against", label: t("import-is", { minus: metric?.minus ?? t("common-closed-2") }) },
  ];
}
