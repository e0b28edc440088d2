/** An academy's changes to the knowledge: table → entry → field → value. */
export type Value =
  | string
  | number
  | boolean
  | null
  | string[]
  | Record<string, number>
  | Record<string, Record<string, number>>;
export type Row = Record<string, unknown>;
export type Changes = Record<string, Record<string, Row>>;

/** Return changes with one field set; a restored field disappears, with empty entries and tables. */
export function withField(
  changes: Changes,
  table: string,
  key: string,
  field: string,
  value: unknown,
  shipped: unknown,
): Changes {
  const row = { ...changes[table]?.[key] };
  if (same(value, shipped)) delete row[field];
  else row[field] = value;
  return withRow(changes, table, key, row);
}

/** Return changes with one entry replaced; an empty one is left out. */
export function withRow(changes: Changes, table: string, key: string, row: Row | null): Changes {
  const rows = { ...changes[table] };
  if (row && Object.keys(row).length) rows[key] = row;
  else delete rows[key];
  const next = { ...changes, [table]: rows };
  if (Object.keys(rows).length === 0) delete next[table];
  return next;
}

export function countOf(changes: Changes): number {
  return Object.values(changes).reduce((sum, rows) => sum + Object.keys(rows).length, 0);
}

export function same(a: unknown, b: unknown): boolean {
  return JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(
    Object.entries(value)
      .toSorted(([a], [b]) => a.localeCompare(b))
      .map(([k, v]) => [k, sorted(v)]),
  );
}

/** A key for an own entry, from its name: "Trail heel" → "own-trail-heel". */
export function ownKey(name: string, taken: Iterable<string>): string {
  const plain = name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  const stem = `own-${plain || "entry"}`.slice(0, 36);
  const used = new Set(taken);
  for (let n = 1; ; n++) {
    const key = n === 1 ? stem : `${stem}-${n}`;
    if (!used.has(key)) return key;
  }
}
