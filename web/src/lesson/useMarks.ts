import { useCallback, useRef, useState } from "react";

import type { Shot, useLessonActions } from "../api/queries";
import type { Mark, MarkName } from "../domain/keys";

type Step = { shot: Shot; before: Mark; what: string };
const KEPT = 50;

/** Marks with a way back: every mark remembers what was there before. */
export function useMarks(actions: ReturnType<typeof useLessonActions>) {
  const steps = useRef<Step[]>([]);
  const [told, setTold] = useState("");
  const { mutate } = actions.mark;

  const mark = useCallback(
    (shot: Shot, marks: Mark) => {
      const names = Object.keys(marks) as MarkName[];
      const before = Object.fromEntries(names.map((name) => [name, shot[name]]));
      const what = `ball ${shot.number}: ${names.map((n) => `${n.replace("_", " ")} ${marks[n] || "taken back"}`).join(", ")}`;
      steps.current = [...steps.current.slice(-KEPT), { shot, before, what }];
      setTold(`Marked ${what}. Z takes it back.`);
      mutate({ id: shot.id, marks });
    },
    [mutate],
  );

  const undo = useCallback(() => {
    const last = steps.current.pop();
    if (!last) {
      setTold("Nothing to take back.");
      return;
    }
    setTold(`Taken back: ${last.what}.`);
    mutate({ id: last.shot.id, marks: last.before });
  }, [mutate]);

  return { mark, undo, told };
}
