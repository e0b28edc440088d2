import { t } from "./language";

/** What each role may do, in the order of what they may. */
export const ROLES = [
  { id: "head", label: "Head coach" },
  { id: "coach", label: "Coach" },
  { id: "desk", label: "Desk" },
];

const MAY: Record<string, string> = {
  head: "Teaches, and answers for people, bays and knowledge.",
  coach: "Teaches: sees every student and lesson of the academy.",
  desk: "Books and prints: sees who comes, and of what was found only the page it prints.",
};

export const roleName = (role: string) => t(ROLES.find((one) => one.id === role)?.label ?? role);
export const roleMay = (role: string) => t(MAY[role] ?? "");
