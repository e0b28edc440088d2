import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useLeftOver, useLessonActions, useMarkActions } from "../../api/actions";
import { useLeftOverChanges, useWaitingChanges } from "../../api/changes";
import { useLive } from "../../api/live";
import { type Lesson, queries, type Shot, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import type { Units } from "../../shared/format/units";
import { clickerOf } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { savedText } from "../../shared/ui/savedText";
import { MadeUpGolfer } from "../training/MadeUpGolfer";
import { Aloud } from "./Aloud";
import { BallTape } from "./BallTape";
import { HelpDialog } from "./HelpDialog";
import { useHints } from "./hints";
import type { KeyAction, Mark } from "./keys";
import { LessonBar } from "./LessonBar";
import {
  ActionsContext,
  type Balls,
  BallsContext,
  type Chosen,
  ChosenContext,
  DeskContext,
  type LessonDesk,
  useActions,
  WatchContext,
} from "./LessonContext";
import { LookAhead } from "./LookAhead";
import { NoteDialog } from "./NoteDialog";
import { ProgressBar, type Station } from "./ProgressBar";
import { RefusedBalls } from "./RefusedBalls";
import { SavePicture } from "./SavePicture";
import { SelectionBar } from "./SelectionBar";
import { NOTHING, nextWaiting, only, type Selection, waitingBalls } from "./selection";
import { standing } from "./tape";
import { useKeys } from "./useKeys";
import { useMarks } from "./useMarks";
import { WaitingMarks } from "./WaitingMarks";
import { WaitingRows } from "./WaitingRows";

/** A lesson: its bar, the stations, the current one, and the tape. */
export function LessonPage({ stations }: { stations: Station[] }) {
  const params = useParams();
  const id = Number(params.lessonId);
  const lesson = useQuery(queries.lesson(id));
  const shots = useQuery(queries.shots(id));
  // A later question that fails does not take the lesson off the screen: its line would end with it.
  const failed = [lesson, shots].find((query) => query.isLoadingError);
  if (failed?.error) return <Notice error={failed.error} />;
  if (!lesson.data || !shots.data) return null;
  const station = [params.station, lesson.data.station].map((id) => stations.find((s) => s.id === id)).find(Boolean);
  if (!station) return null;
  return (
    <ActionsProvider lessonId={id}>
      <RememberedStation lesson={lesson.data} station={station.id} />
      <Desk key={id} lesson={lesson.data} shots={shots.data} stations={stations} station={station} />
    </ActionsProvider>
  );
}

/** Actions and their state, above the desk, so that only those who wait for one re-render. */
function ActionsProvider({ lessonId, children }: { lessonId: number; children: ReactNode }) {
  return <ActionsContext.Provider value={useLessonActions(lessonId)}>{children}</ActionsContext.Provider>;
}

type DeskProps = { lesson: Lesson; shots: Shot[]; stations: Station[]; station: Station };

function Desk({ lesson, shots, stations, station }: DeskProps) {
  const navigate = useNavigate();
  const session = useSession();
  const line = useLive(lesson.id, lesson.cursor);
  const [selection, select] = useState<Selection>(NOTHING);
  const [turns, setTurns] = useState(false);
  const inTurn = turns && selection.anchor !== null;
  const [helping, setHelping] = useState(false);
  const [noting, setNoting] = useState(false);
  const [keeping, setKeeping] = useState(false);
  const [watched, watch] = useState<string | null>(null);
  const marking = useMarkActions(lesson.id);
  useLeftOver(lesson.id, useActions().grade.mutate, marking.mark.mutate);
  const { mark: markOne, markMany, undo, result } = useMarks(marking);
  const tape = useQuery(queries.proof(lesson.id)).data?.tape;

  const target = selection.anchor === null ? shots.at(-1) : shots.find((s) => s.id === selection.anchor);
  // Read when a key is pressed: who shows the desk is not redrawn by every ball.
  const now = useRef({ shots, inTurn });
  now.current = { shots, inTurn };
  const mark = useCallback(
    (shot: Shot, marks: Mark) => {
      markOne(shot, marks);
      if (now.current.inTurn && marks.movement) select(nextWaiting(now.current.shots, shot));
    },
    [markOne],
  );
  const markInTurn = useCallback(() => {
    const first = waitingBalls(now.current.shots)[0];
    if (!first) return;
    setTurns(true);
    select(only(first.id));
  }, []);
  const go = useCallback((to: string) => navigate(`/lessons/${lesson.id}/${to}`), [navigate, lesson.id]);
  function perform(operation: KeyAction) {
    if (operation.do === "go") go(operation.station);
    if (operation.do === "help") setHelping(true);
    if (operation.do === "note") setNoting(true);
    if (operation.do === "keep") setKeeping(true);
    if (operation.do === "in-turn") {
      if (station.id !== "prove") go("prove");
      markInTurn();
    }
    if (operation.do === "undo") undo();
    if (operation.do === "films") go(target ? `films?ball=${target.number}` : "films");
    if (operation.do === "select") select(operation.selection);
    if (operation.do === "mark" && target) mark(target, operation.mark);
  }
  useKeys(
    {
      stations: stations.map((s) => s.id),
      order: shots.map((s) => s.id),
      selection,
      target,
      digitsTaken: station.takesDigits ?? false,
      clicker: clickerOf(session.clicker),
    },
    perform,
  );

  const hints = useHints(session.begins);
  const hint = lesson.training ? undefined : hints.of(station.id); // a made-up golfer brings hints along
  const units = session.units as Units;
  const desk = useMemo<LessonDesk>(
    () => ({ lesson, units, hand: lesson.hand, select, mark, markMany, markInTurn }),
    [lesson, units, mark, markMany, markInTurn],
  );
  const balls = useMemo<Balls>(() => ({ shots, ...standing(tape) }), [shots, tape]);
  const chosen = useMemo<Chosen>(() => ({ selection, target, inTurn }), [selection, target, inTurn]);
  const help = useCallback(() => setHelping(true), []);
  const failed = [marking.mark, marking.markMany].find((action) => action.isError);
  return (
    <DeskContext.Provider value={desk}>
      <BallsContext.Provider value={balls}>
        <ChosenContext.Provider value={chosen}>
          <div className="flex h-screen flex-col print:h-auto">
            <LessonBar line={line} />
            <ProgressBar lesson={lesson} stations={stations} here={station.id} />
            <Aloud station={station} />
            <LookAhead lesson={lesson} stations={stations} here={station} />
            <ChangeNotices lessonId={lesson.id} />
            {hint && (
              <aside
                aria-label={t("lesson-what-do-here")}
                className="no-print flex shrink-0 items-center gap-4 border-b border-rule bg-straw-ground px-4 py-1"
              >
                <p className="grow">{t(hint)}</p>
                <Button className="shrink-0" onClick={() => hints.putAway(station.id)}>
                  {t("lesson-got")}
                </Button>
              </aside>
            )}
            <div className="flex min-h-0 grow max-lg:flex-col print:block">
              <main
                className="@container relative min-h-0 min-w-0 grow overflow-y-auto px-4 py-3 print:overflow-visible"
                tabIndex={-1}
              >
                {failed?.error && <Notice error={failed.error} />}
                <WaitingRows />
                <RefusedBalls />
                {station.id !== "prove" && <WaitingMarks onStart={() => go("prove")} />}
                <WatchContext.Provider value={watch}>
                  <station.Component />
                </WatchContext.Provider>
              </main>
              {lesson.training && (
                <MadeUpGolfer lesson={lesson} station={station.id} check={watched} ball={target?.number} />
              )}
            </div>
            <SelectionBar />
            <BallTape result={result} onHelp={help} />
          </div>
          {keeping && <SavePicture station={t(station.name)} onClose={() => setKeeping(false)} />}
          <HelpDialog
            open={helping}
            onOpenChange={setHelping}
            onKeep={() => {
              setHelping(false);
              setKeeping(true);
            }}
            onHints={() => {
              setHelping(false);
              hints.bringBack();
            }}
          />
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

/** Changes of the lesson that were refused or wait for the connection, where no station says so. */
function ChangeNotices({ lessonId }: { lessonId: number }) {
  const { move, takeBay, splitBlock, mergeBlock } = useActions();
  const leftOver = useLeftOverChanges(lessonId);
  const waits = useWaitingChanges(lessonId);
  const failed = [move, takeBay, splitBlock, mergeBlock, leftOver].find((action) => action.isError);
  if (!failed?.error && !waits) return null;
  return (
    <div className="px-4 pt-3">
      {waits && <p role="status">{savedText("offline")}</p>}
      {failed?.error && <Notice error={failed.error} />}
    </div>
  );
}

/** The server stores the station, so that a lesson resumes where it was left. */
function RememberedStation({ lesson, station }: { lesson: Lesson; station: string }) {
  const { mutate } = useActions().rememberStation;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when this screen moves; another screen's move must not be taken back
  useEffect(() => {
    if (lesson.station !== station) mutate(station);
  }, [station, lesson.id]);
  return null;
}
