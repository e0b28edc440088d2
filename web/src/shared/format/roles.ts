import { t } from "./language";

/** What each role may do, in order. */
export const ROLES = [
  { id: "head", label: "Head coach" },
  { id: "coach", label: "Coach" },
  { id: "desk", label: "Desk" },
];

const MAY: Record<string, string> = {
  head: "Teaches, and manages team, bays and knowledge.",
  coach: "Teaches. Sees all students and lessons of the academy.",
  desk: "Books lessons and prints pages. Sees who comes; of the results, only the printed page.",
};

export const roleName = (role: string) => t(ROLES.find((one) => one.id === role)?.label ?? role);
export const roleMay = (role: string) => t(MAY[role] ?? "");
