import { t } from "../../shared/format/language";
import { useTitle } from "../../shared/ui/useTitle";
import { useBalls, useDesk } from "./LessonContext";
import type { Station } from "./ProgressBar";

/** What a reader of screens says when the station changes or a ball comes; Prove says of a ball what became of it. */
export function Aloud({ station }: { station: Station }) {
  const { lesson } = useDesk();
  const newest = useBalls().shots.at(-1);
  useTitle(t(station.name), lesson.student.name);
  return (
    <div className="sr-only">
      <p role="status">{t(station.name)}</p>
      {station.id !== "prove" && <p role="status">{newest && t("Ball {number}", { number: newest.number })}</p>}
    </div>
  );
}
