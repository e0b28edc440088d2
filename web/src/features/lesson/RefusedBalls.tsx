import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { handed } from "../../shared/format/player";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions, useDesk } from "./LessonContext";

type Group = Schemas["RefusedGroup"];
type How = Schemas["How"];

/** Ways to handle refused balls, by reason; the first is the most common. */
const HANDLING: Record<string, { how: How; label: string }[]> = {
  "other-hand": [
    { how: "mirrored", label: "lesson-add-mirrored" },
    { how: "as-it-is", label: "lesson-add-measured" },
  ],
  "number-taken": [{ how: "as-it-is", label: "lesson-add-new-balls" }],
  unreadable: [{ how: "without", label: "lesson-add-without-unreadable-values" }],
  unstorable: [{ how: "as-it-is", label: "lesson-try-again" }],
};

/** Balls that the server refused: what happened, and what to do. */
export function RefusedBalls() {
  const { lesson } = useDesk();
  if (lesson.bay_id === null) return null;
  return lesson.refused.map((group) => <Line key={group.reason} group={group} bayId={lesson.bay_id as number} />);
}

function Line({ group, bayId }: { group: Group; bayId: number }) {
  const { takeRefused, leaveRefused } = useActions();
  const [open, setOpen] = useState(false);
  const body = { bay_id: bayId, refused_ids: group.ids };
  const busy = takeRefused.isPending || leaveRefused.isPending;
  return (
    <Callout as="div" tone="plum" className="mb-2 flex flex-wrap items-center gap-2" role="alert">
      <p className="grow text-plum">{group.text}</p>
      {(HANDLING[group.reason] ?? []).map(({ how, label }) => (
        <Button key={how} disabled={busy} onClick={() => takeRefused.mutate({ ...body, how })}>
          {t(label)}
        </Button>
      ))}
      <Button onClick={() => setOpen(true)}>
        {group.count === 1 ? t("lesson-show-record") : t("lesson-show-records")}
      </Button>
      {takeRefused.isError && <Notice error={takeRefused.error} />}
      {open && (
        <Records
          group={group}
          bayId={bayId}
          onClose={() => setOpen(false)}
          onLeave={() => {
            setOpen(false);
            leaveRefused.mutate({ bay_id: bayId, body: { refused_ids: group.ids, left: true } });
          }}
        />
      )}
    </Callout>
  );
}

type RecordsProps = { group: Group; bayId: number; onClose: () => void; onLeave: () => void };

/** The raw records. */
function Records({ group, bayId, onClose, onLeave }: RecordsProps) {
  const { lesson } = useDesk();
  const stored = useQuery(queries.refused(lesson.id, bayId));
  const mine = new Set(group.ids);
  const rows = (stored.data ?? []).filter((row) => mine.has(row.id));
  return (
    <Sheet title={t("lesson-raw-records")} result={advice(group.reason, lesson)} open onClose={onClose}>
      {stored.isError && <Notice error={stored.error} />}
      <ul className="flex max-h-[50vh] flex-col gap-3 overflow-y-auto">
        {rows.map((row) => (
          <li key={row.id} className="border border-rule bg-sheet p-2">
            <p>
              {row.device_name}
              {row.device_sequence !== null && t("lesson-ball", { device_sequence: row.device_sequence })}:{" "}
              {row.message}
            </p>
            <pre className="mt-1 text-sm break-words whitespace-pre-wrap text-soft">{row.raw}</pre>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex gap-2">
        <Button onClick={onLeave}>{t("common-dismiss")}</Button>
        <Button onClick={onClose}>{t("common-done")}</Button>
      </div>
    </Sheet>
  );
}

function advice(reason: string, lesson: Schemas["LessonOut"]): string {
  if (reason === "other-hand") {
    return t("lesson-set-monitor-give-bay-student", { side: handed(lesson.hand) });
  }
  if (reason === "number-taken") return t("lesson-monitor-started-counting-again-nothing");
  return t("lesson-they-stay-bay-until-add");
}
