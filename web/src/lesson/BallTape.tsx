import { useEffect, useRef } from "react";

import { useKnowledge, type Shot } from "../api/queries";
import { golferValue, say } from "../domain/say";
import { choose } from "../domain/selection";
import { BallGlyph } from "./BallGlyph";
import { useDesk } from "./LessonContext";

/** Every ball of the lesson, newest at the right. Choosing balls here chooses them everywhere. */
export function BallTape({ told, onHelp }: { told: string; onHelp: () => void }) {
  const { shots, selection, select, verdicts, apart, hand, target } = useDesk();
  const strip = useRef<HTMLDivElement>(null);
  const order = shots.map((s) => s.id);
  const newest = order.at(-1);

  useEffect(() => {
    strip.current?.scrollTo({ left: strip.current.scrollWidth });
  }, [newest]);

  useEffect(() => {
    if (selection.anchor === null) return;
    strip.current?.querySelector(`[data-ball="${selection.anchor}"]`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [selection.anchor]);

  return (
    <section aria-label="Balls" className="no-print flex h-[112px] shrink-0 border-t border-rule bg-sheet">
      <div className="flex w-44 shrink-0 flex-col justify-between border-r border-rule px-3 py-2">
        <p className="flex items-baseline gap-1.5">
          <span className="text-2xl leading-none font-bold">{shots.length}</span>
          <span className="text-sm text-soft">{shots.length === 1 ? "ball" : "balls"}</span>
          {selection.ids.size > 0 && <span className="text-sm text-clay">{selection.ids.size} chosen</span>}
        </p>
        <p role="status" className="line-clamp-2 text-xs leading-tight text-soft">
          {told}
        </p>
        <button type="button" className="min-h-6 self-start text-xs text-soft underline-offset-4 hover:underline" onClick={onHelp}>
          Keys (?)
        </button>
      </div>
      <div ref={strip} className="relative flex min-w-0 grow items-stretch overflow-x-auto" tabIndex={-1}>
        {shots.length === 0 && <p className="self-center px-4 text-soft">Balls appear here, one stem each, as they are hit or brought in.</p>}
        {shots.map((shot, i) => (
          <div key={shot.id} className="flex">
            {shots[i - 1]?.block_id !== shot.block_id && <Seam label={shot.stage || "baseline"} first={i === 0} />}
            <button
              type="button"
              data-ball={shot.id}
              tabIndex={shot.id === (target?.id ?? newest) ? 0 : -1}
              aria-pressed={selection.ids.has(shot.id)}
              title={apart.get(shot.id)}
              onClick={(event) => select(choose(selection, shot.id, order, event.shiftKey, event.ctrlKey || event.metaKey))}
              className={`flex min-w-11 flex-col items-center justify-end border-b-4 px-1 pb-0.5 ${
                selection.ids.has(shot.id) ? "border-clay bg-straw-ground" : "border-transparent hover:bg-paper"
              }`}
            >
              <span className="sr-only">
                <BallWords shot={shot} verdict={verdicts.get(shot.id)} apart={apart.get(shot.id)} />
              </span>
              <BallGlyph shot={shot} hand={hand} apart={apart.has(shot.id)} verdict={verdicts.get(shot.id)} />
              <span aria-hidden="true" className="text-xs text-soft">
                {shot.number}
              </span>
            </button>
          </div>
        ))}
      </div>
    </section>
  );
}

function Seam({ label, first }: { label: string; first: boolean }) {
  return (
    <span className={`flex items-end pb-1 pl-1 ${first ? "" : "ml-1 border-l-2 border-ink"}`}>
      <span className="rotate-180 text-xs text-soft [writing-mode:vertical-rl]">{label}</span>
    </span>
  );
}

function BallWords({ shot, verdict, apart }: { shot: Shot; verdict?: string; apart?: string }) {
  const knowledge = useKnowledge();
  const { hand, units } = useDesk();
  const path = knowledge.metrics.find((m) => m.id === "path_deg");
  const parts = [`Ball ${shot.number}`];
  if (path && shot.path_deg !== null) parts.push(`path ${say(path, golferValue(path, shot.path_deg, hand), units)}`);
  if (shot.movement) parts.push(`movement ${knowledge.words.movement?.[shot.movement]?.toLowerCase()}`);
  if (verdict) parts.push(`verdict ${knowledge.words.verdict?.[verdict]?.toLowerCase()}`);
  if (apart) parts.push(`set apart: ${apart}`);
  return <>{parts.join(", ")}</>;
}
