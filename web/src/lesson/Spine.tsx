import { memo } from "react";
import { Link } from "react-router";

import type { Lesson } from "../api/queries";

const NAMES: Record<string, string> = {
  ask: "Ask",
  baseline: "Baseline",
  check: "Check",
  cause: "Cause",
  correct: "Correct",
  prove: "Prove",
  "take-home": "Take home",
};

/** The seven stations as one line; each says how far it is. Free to jump, nothing locks. */
export const Spine = memo(function Spine({ lesson, station }: { lesson: Lesson; station: string }) {
  return (
    <nav aria-label="Stations" className="no-print relative border-b border-rule bg-paper">
      <div aria-hidden="true" className="absolute top-[21px] right-[7%] left-[7%] h-0.5 bg-rule" />
      <ol className="relative grid grid-cols-7">
        {lesson.spine.map((state, i) => {
          const here = state.id === station;
          const knot = here ? "border-clay bg-clay" : state.ready ? "border-ink bg-ink" : "border-soft bg-paper";
          return (
            <li key={state.id}>
              <Link
                to={`/lessons/${lesson.id}/${state.id}`}
                aria-current={here ? "step" : undefined}
                aria-keyshortcuts={`Alt+${i + 1}`}
                className="flex flex-col items-center px-1 pt-3.5 pb-1.5 hover:bg-sheet"
              >
                <span aria-hidden="true" className={`h-4 w-4 rotate-45 border-2 ${knot} ${here ? "scale-125" : ""}`} />
                <span className={`mt-1.5 leading-tight ${here ? "font-bold" : "font-medium"}`}>{NAMES[state.id]}</span>
                <span className="max-w-full truncate text-sm text-soft">{state.state}</span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
});
