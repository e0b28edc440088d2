import { t } from "../../shared/format/language";
import { useTitle } from "../../shared/ui/useTitle";
import { useBalls, useDesk } from "./LessonContext";
import type { Station } from "./ProgressBar";

/** Screen reader announcements for a new station or ball; on Prove, the ball's result. */
export function Aloud({ station }: { station: Station }) {
  const { lesson } = useDesk();
  const newest = useBalls().shots.at(-1);
  useTitle(t(station.name), lesson.student.name);
  return (
    <div className="sr-only">
      <p role="status">{t(station.name)}</p>
      {station.id !== "prove" && <p role="status">{newest && t("common-ball-2", { number: newest.number })}</p>}
    </div>
  );
}
