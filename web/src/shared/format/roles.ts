import { t } from "./language";

/** What each role may do, in order. */
export const ROLES = [
  { id: "head", label: "common-head-coach" },
  { id: "coach", label: "common-coach" },
  { id: "desk", label: "common-desk" },
];

const MAY: Record<string, string> = {
  head: "common-teaches-manages-team-bays-knowledge",
  coach: "common-teaches-sees-all-students-lessons",
  desk: "common-books-lessons-prints-pages-sees",
};

export const roleName = (role: string) => t(ROLES.find((one) => one.id === role)?.label ?? role);
export const roleMay = (role: string) => t(MAY[role] ?? "");
