import { useQuery } from "@tanstack/react-query";
import { type ComponentType, memo, type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";

import { useLive } from "../api/live";
import { type Lesson, queries, type Shot, useLessonActions, useMarkActions, useSession } from "../api/queries";
import type { Deed } from "../domain/keys";
import { NOTHING, type Selection } from "../domain/selection";
import { standing } from "../domain/tape";
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
import { ActionsContext, type Balls, BallsContext, type Chosen, ChosenContext, DeskContext, type LessonDesk, useActions } from "./LessonContext";
import { NoteDialog } from "./NoteDialog";
import { RefusedBalls } from "./RefusedBalls";
import { SelectionBar } from "./SelectionBar";
import { Spine } from "./Spine";
import { useKeys } from "./useKeys";
import { useMarks } from "./useMarks";

// Remembered: a station is drawn anew when something it shows has changed, not with every key.
const STATIONS: Record<string, ComponentType> = {
  ask: memo(AskStation),
  baseline: memo(BaselineStation),
  check: memo(CheckStation),
  cause: memo(CauseStation),
  correct: memo(CorrectStation),
  prove: memo(ProveStation),
  "take-home": memo(TakeHomeStation),
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
  return (
    <ActionsProvider lessonId={id}>
      <RememberedStation lesson={lesson.data} station={station} />
      <Desk key={id} lesson={lesson.data} shots={shots.data} station={station} />
    </ActionsProvider>
  );
}

/** Deeds and their state, above the desk: whoever waits for one is told, nobody else. */
function ActionsProvider({ lessonId, children }: { lessonId: number; children: ReactNode }) {
  return <ActionsContext.Provider value={useLessonActions(lessonId)}>{children}</ActionsContext.Provider>;
}

function Desk({ lesson, shots, station }: { lesson: Lesson; shots: Shot[]; station: string }) {
  const navigate = useNavigate();
  const session = useSession();
  const line = useLive(lesson.id, lesson.cursor);
  const [selection, select] = useState<Selection>(NOTHING);
  const [helping, setHelping] = useState(false);
  const [noting, setNoting] = useState(false);
  const marking = useMarkActions(lesson.id);
  const { mark, markMany, undo, told } = useMarks(marking);
  const tape = useQuery(queries.proof(lesson.id)).data?.tape;

  const target = selection.anchor === null ? shots.at(-1) : shots.find((s) => s.id === selection.anchor);
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

  const units = session.units as Units;
  const desk = useMemo<LessonDesk>(
    () => ({ lesson, units, hand: lesson.hand, select, mark, markMany }),
    [lesson, units, mark, markMany],
  );
  const balls = useMemo<Balls>(() => ({ shots, ...standing(tape) }), [shots, tape]);
  const chosen = useMemo<Chosen>(() => ({ selection, target }), [selection, target]);
  const help = useCallback(() => setHelping(true), []);
  const failed = [marking.mark, marking.markMany].find((action) => action.isError);
  const Station = STATIONS[station] as ComponentType;
  return (
    <DeskContext.Provider value={desk}>
      <BallsContext.Provider value={balls}>
        <ChosenContext.Provider value={chosen}>
          <div className="flex h-screen flex-col print:h-auto">
            <LessonBar line={line} />
            <Spine lesson={lesson} station={station} />
            <main className="min-h-0 grow overflow-y-auto px-4 py-3 print:overflow-visible" tabIndex={-1}>
              {failed?.error && <Notice error={failed.error} />}
              <BlockNotices />
              <RefusedBalls />
              <Station />
            </main>
            <SelectionBar />
            <BallTape told={told} onHelp={help} />
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
        </ChosenContext.Provider>
      </BallsContext.Provider>
    </DeskContext.Provider>
  );
}

/** What went wrong with cutting and joining blocks. */
function BlockNotices() {
  const { splitBlock, mergeBlock } = useActions();
  const failed = [splitBlock, mergeBlock].find((action) => action.isError);
  return failed?.error ? <Notice error={failed.error} /> : null;
}

/** The server remembers the station, so that a lesson is resumed where it was left. */
function RememberedStation({ lesson, station }: { lesson: Lesson; station: string }) {
  const { mutate } = useActions().move;
  useEffect(() => {
    if (lesson.station !== station) mutate({ station });
    // Only when this screen moves; another screen's move must not be taken back.
  }, [station, lesson.id]);
  return null;
}
