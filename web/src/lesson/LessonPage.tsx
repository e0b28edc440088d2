import { useQuery } from "@tanstack/react-query";
import { type ComponentType, useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";

import { useLive } from "../api/live";
import { type Lesson, queries, type Shot, useLessonActions, useSession } from "../api/queries";
import type { Deed } from "../domain/keys";
import { NOTHING, type Selection } from "../domain/selection";
import type { Units } from "../domain/units";
import { HelpDialog } from "../kit/HelpDialog";
import { Notice } from "../kit/Notice";
import { AskStation } from "../stations/ask/AskStation";
import { BaselineStation } from "../stations/baseline/BaselineStation";
import { CauseStation } from "../stations/cause/CauseStation";
import { CheckStation } from "../stations/check/CheckStation";
import { CorrectStation } from "../stations/correct/CorrectStation";
import { ProveStation } from "../stations/prove/ProveStation";
import { TakeHomeStation } from "../stations/take-home/TakeHomeStation";
import { BallTape } from "./BallTape";
import { LessonBar } from "./LessonBar";
import { LessonContext, type LessonDesk } from "./LessonContext";
import { NoteDialog } from "./NoteDialog";
import { SelectionBar } from "./SelectionBar";
import { Spine } from "./Spine";
import { useKeys } from "./useKeys";
import { useMarks } from "./useMarks";

const STATIONS: Record<string, ComponentType> = {
  ask: AskStation,
  baseline: BaselineStation,
  check: CheckStation,
  cause: CauseStation,
  correct: CorrectStation,
  prove: ProveStation,
  "take-home": TakeHomeStation,
};

/** A lesson: its bar, its spine, one station, and the tape of balls. */
export function LessonPage() {
  const params = useParams();
  const id = Number(params.lessonId);
  const lesson = useQuery(queries.lesson(id));
  const shots = useQuery(queries.shots(id));
  if (lesson.isError) return <Notice error={lesson.error} />;
  if (!lesson.data || !shots.data) return null;
  const station = params.station && params.station in STATIONS ? params.station : lesson.data.station;
  return <Desk key={id} lesson={lesson.data} shots={shots.data} station={station} />;
}

function Desk({ lesson, shots, station }: { lesson: Lesson; shots: Shot[]; station: string }) {
  const navigate = useNavigate();
  const session = useSession();
  const actions = useLessonActions(lesson.id);
  const line = useLive(lesson.id, lesson.cursor);
  const [selection, select] = useState<Selection>(NOTHING);
  const [helping, setHelping] = useState(false);
  const [noting, setNoting] = useState(false);
  const { mark, markMany, undo, told } = useMarks(actions);
  const proof = useQuery(queries.proof(lesson.id));
  const reading = useQuery(queries.reading(lesson.id, ""));
  useRemembered(lesson, station, actions.move.mutate);

  const target = selection.anchor === null ? shots.at(-1) : shots.find((s) => s.id === selection.anchor);
  const verdicts = useMemo(
    () => new Map(proof.data?.ball_ids.map((id, i) => [id, proof.data.proof?.verdicts[i]?.verdict ?? "unclear"])),
    [proof.data],
  );
  const apart = useMemo(() => {
    const reasons = new Map<number, string>();
    for (const m of reading.data?.reading.mishits ?? []) {
      const id = reading.data?.ball_ids[m.index];
      if (id !== undefined) reasons.set(id, m.reason);
    }
    for (const [i, verdict] of (proof.data?.proof?.verdicts ?? []).entries()) {
      const id = proof.data?.ball_ids[i];
      if (id !== undefined && verdict.reasons[0]?.startsWith("Mishit")) reasons.set(id, verdict.reasons[0]);
    }
    for (const shot of shots) if (shot.set_aside) reasons.set(shot.id, shot.set_aside);
    return reasons;
  }, [reading.data, proof.data, shots]);

  const go = useCallback((to: string) => navigate(`/lessons/${lesson.id}/${to}`), [navigate, lesson.id]);
  function perform(deed: Deed) {
    if (deed.do === "go") go(deed.station);
    if (deed.do === "help") setHelping(true);
    if (deed.do === "note") setNoting(true);
    if (deed.do === "undo") undo();
    if (deed.do === "select") select(deed.selection);
    if (deed.do === "mark" && target) mark(target, deed.mark);
  }
  useKeys(
    {
      stations: lesson.spine.map((s) => s.id),
      order: shots.map((s) => s.id),
      selection,
      target,
      digitsTaken: station === "check",
    },
    perform,
  );

  const desk: LessonDesk = {
    lesson,
    shots,
    selection,
    select,
    target,
    mark,
    markMany,
    actions,
    units: session.units as Units,
    hand: lesson.student.hand,
    proof: proof.data?.proof ?? null,
    verdicts,
    apart,
  };
  const Station = STATIONS[station] ?? AskStation;
  return (
    <LessonContext.Provider value={desk}>
      <div className="flex h-screen flex-col print:h-auto">
        <LessonBar line={line} />
        <Spine lesson={lesson} station={station} />
        <main className="min-h-0 grow overflow-y-auto px-4 py-3 print:overflow-visible" tabIndex={-1}>
          {[actions.mark, actions.markMany, actions.splitBlock, actions.mergeBlock].map((action, i) => action.isError && <Notice key={i} error={action.error} />)}
          <Station />
        </main>
        <SelectionBar />
        <BallTape told={told} onHelp={() => setHelping(true)} />
      </div>
      <HelpDialog open={helping} onOpenChange={setHelping} />
      {noting && target && (
        <NoteDialog
          key={target.id}
          shot={target}
          onClose={() => setNoting(false)}
          onKeep={(note) => {
            mark(target, { note });
            setNoting(false);
          }}
        />
      )}
    </LessonContext.Provider>
  );
}

/** The server remembers the station, so that a lesson is resumed where it was left. */
function useRemembered(lesson: Lesson, station: string, move: (change: { station: string }) => void) {
  useEffect(() => {
    if (lesson.station !== station) move({ station });
    // Only when this screen moves; another screen's move must not be taken back.
  }, [station, lesson.id]);
}
