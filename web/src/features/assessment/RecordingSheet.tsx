import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { fixed, t } from "../../shared/format/language";
import { capital, hyphens } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions, useDesk } from "../lesson/LessonContext";
import { Curves } from "./Curves";
import { nudged } from "./curves";
import { Proposals } from "./Proposals";

const FINE = 0.01;

/** One recorded swing: curves with moments, first mover, proposed answers. */
export function RecordingSheet({ id, onClose }: { id: number; onClose: () => void }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const told = useQuery(queries.recording(lesson.id, id));
  const grades = useQuery(queries.checks(lesson.id));
  const [moment, choose] = useState("impact");
  const swing = told.data;

  function move(name: string, to: number) {
    if (!swing) return;
    const kept = Object.fromEntries(swing.moments.set_by_hand.map((m) => [m, swing.moments.at[m] ?? 0]));
    actions.changeRecording.mutate({ id, body: { marks: { ...kept, [name]: to } } });
  }
  return (
    <Sheet
      title={swing ? (swing.ball ? t("Recorded with ball {ball}", { ball: swing.ball }) : swing.name) : t("Recording")}
      told={
        swing?.view
          ? t(
              "Moments are found in the pictures, impact by its sound where it was recorded. Drag one to correct it, or select it and move it with the keys.",
            )
          : t("Moments are found from the curves. Drag one to correct it, or select it and move it with the keys.")
      }
      open
      wide
      onClose={onClose}
    >
      {told.isError && <Notice error={told.error} />}
      {actions.changeRecording.isError && <Notice error={actions.changeRecording.error} />}
      {swing && (
        <div className="grid gap-6 lg:grid-cols-[minmax(0,5fr)_minmax(0,4fr)]">
          <div>
            <MomentRow
              swing={swing}
              chosen={moment}
              onChoose={choose}
              onMove={(by) => move(moment, nudged(swing.moments.at, moment, by, swing.time.at(-1) ?? 0))}
            />
            <Curves swing={swing} chosen={moment} onChoose={choose} onDrop={move} />
          </div>
          <div>
            {swing.first && <Order first={swing.first} />}
            <Proposals
              proposals={swing.proposals}
              graded={grades.data?.grades ?? {}}
              onTake={(look, grade) =>
                actions.grade.mutate({ [look]: grade, source: swing.view ? "camera" : "recording" })
              }
            />
            {swing.notes.map((note) => (
              <p key={note} className="mt-2 text-sm text-soft">
                {note}
              </p>
            ))}
            <div className="mt-4 flex gap-2">
              <Button
                disabled={swing.moments.set_by_hand.length === 0}
                onClick={() => actions.changeRecording.mutate({ id, body: { marks: {} } })}
              >
                {t("Reset moments")}
              </Button>
              <Button
                onClick={() => {
                  actions.changeRecording.mutate({ id, body: { dropped: true } });
                  onClose();
                }}
              >
                {t("Discard this swing")}
              </Button>
            </div>
          </div>
        </div>
      )}
    </Sheet>
  );
}

type RowProps = {
  swing: Schemas["RecordingRead"];
  chosen: string;
  onChoose: (moment: string) => void;
  onMove: (by: number) => void;
};

function MomentRow({ swing, chosen, onChoose, onMove }: RowProps) {
  const moments = useKnowledge().moments;
  const { at, error, set_by_hand } = swing.moments;
  return (
    <div className="mb-2 flex flex-wrap items-end gap-2">
      <Select
        label={t("Moment")}
        value={chosen}
        options={moments.map((m) => ({ id: m, label: capital(hyphens(m)) }))}
        onChange={onChoose}
      />
      <Button onClick={() => onMove(-FINE)}>{t("10 ms earlier")}</Button>
      <Button onClick={() => onMove(FINE)}>{t("10 ms later")}</Button>
      <p className="min-h-11 py-2.5 text-soft" role="status">
        {fixed(at[chosen] ?? 0, 2)} s
        {set_by_hand.includes(chosen)
          ? t(", set by hand")
          : t(" ± {error} ms", { error: (1000 * (error[chosen] ?? 0)).toFixed(0) })}
      </p>
    </div>
  );
}

const LEAD: Record<string, string> = {
  pelvis: "The pelvis starts down first.",
  together: "Pelvis and upper body start down together.",
  "shoulders-arms": "The chest or the arms start down before the pelvis.",
};

function Order({ first }: { first: NonNullable<Schemas["RecordingRead"]["first"]> }) {
  const parts = Object.entries(first.starts);
  const start = parts[0]?.[1] ?? 0;
  return (
    <Callout tone="clay" className="mb-2">
      <span className="font-semibold">{LEAD[first.grade]}</span>
      <span className="block text-soft">
        {parts
          .map(([part, at], i) =>
            i === 0 ? part : t("{part} {delay} ms later", { part, delay: (1000 * (at - start)).toFixed(0) }),
          )
          .join(", ")}
      </span>
    </Callout>
  );
}
