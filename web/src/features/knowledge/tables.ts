/** The sections of the knowledge. */
import type { Schemas } from "../../api/client";
import { word } from "../../shared/format/language";
import type { Row } from "./changes";

export type Table = "fault" | "partner" | "check" | "window" | "drill" | "versions";
export type Shipped = Schemas["VersionsOut"];

export const TABLES: { id: Table; label: string }[] = [
  { id: "fault", label: "common-faults" },
  { id: "partner", label: "knowledge-partners" },
  { id: "check", label: "common-checks" },
  { id: "window", label: "knowledge-recording-windows" },
  { id: "drill", label: "knowledge-drills" },
];

/** Return the key of an entry; faults with variants include the variant. */
export function keyOf(row: Row): string {
  return row.variant ? `${row.id}/${row.variant}` : String(row.id);
}

export function shippedRows(table: Table, shipped: Shipped): Row[] {
  switch (table) {
    case "fault":
    case "partner":
      return shipped.shipped_causes.filter((c) => c.kind === table);
    case "check":
      return shipped.shipped_checks;
    case "window":
      return shipped.shipped_windows;
    case "drill":
      return shipped.shipped_drills;
    default:
      return [];
  }
}

export function nameOf(table: Table, row: Row): string {
  if (table === "window") return `${word(String(row.look))}: ${word(String(row.grade))}`;
  return String(row.label ?? row.name ?? row.id);
}
