import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { fixed, t, word } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
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
  const result = useQuery(queries.recording(lesson.id, id));
  const grades = useQuery(queries.checks(lesson.id));
  const [moment, choose] = useState("impact");
  const swing = result.data;

  function move(name: string, to: number) {
    if (!swing) return;
    const stored = Object.fromEntries(swing.moments.set_by_hand.map((m) => [m, swing.moments.at[m] ?? 0]));
    actions.changeRecording.mutate({ id, body: { marks: { ...stored, [name]: to } } });
  }
  return (
    <Sheet
      title={swing ? (swing.ball ? t("check-recorded-ball", { ball: swing.ball }) : swing.name) : t("check-recording")}
      result={swing?.view ? t("check-moments-found-pictures-impact-sound") : t("check-moments-found-curves-drag-one")}
      open
      wide
      onClose={onClose}
    >
      {result.isError && <Notice error={result.error} />}
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
              onTake={(check, grade) =>
                actions.grade.mutate({ [check]: grade, source: swing.view ? "camera" : "recording" })
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
                {t("check-reset-moments")}
              </Button>
              <Button
                onClick={() => {
                  actions.changeRecording.mutate({ id, body: { dropped: true } });
                  onClose();
                }}
              >
                {t("check-discard-swing")}
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
        label={t("common-moment")}
        value={chosen}
        options={moments.map((m) => ({ id: m, label: capital(word(m)) }))}
        onChange={onChoose}
      />
      <Button onClick={() => onMove(-FINE)}>{t("check-10-ms-earlier")}</Button>
      <Button onClick={() => onMove(FINE)}>{t("check-10-ms-later")}</Button>
      <p className="min-h-11 py-2.5 text-soft" role="status">
        {fixed(at[chosen] ?? 0, 2)} s
        {set_by_hand.includes(chosen)
          ? t("check-set-hand")
          : t("check-ms", { error: (1000 * (error[chosen] ?? 0)).toFixed(0) })}
      </p>
    </div>
  );
}

const LEAD: Record<string, string> = {
  pelvis: "check-pelvis-starts-down-first",
  together: "check-pelvis-upper-body-start-down",
  "shoulders-arms": "check-chest-arms-start-down-before",
};

function Order({ first }: { first: NonNullable<Schemas["RecordingRead"]["first"]> }) {
  const parts = Object.entries(first.starts);
  const start = parts[0]?.[1] ?? 0;
  return (
    <Callout tone="clay" className="mb-2">
      <span className="font-semibold">{t(LEAD[first.grade] ?? "")}</span>
      <span className="block text-soft">
        {parts
          .map(([part, at], i) =>
            i === 0 ? part : t("check-ms-later", { part, delay: (1000 * (at - start)).toFixed(0) }),
          )
          .join(", ")}
      </span>
    </Callout>
  );
}
