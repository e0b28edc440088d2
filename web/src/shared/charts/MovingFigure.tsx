import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { Figure } from "./Figure";

type Props = { swing: Schemas["SwingShown"]; label: string; slow?: boolean; onBegin?: () => void };

const SLOWER = 4;

/** A figure that swings once on mount and stops at its finish. */
export function MovingFigure({ swing, label, slow = false, onBegin }: Props) {
  const [frame, show] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it begins once, when it is put on the page
  useEffect(() => {
    onBegin?.();
    const start = performance.now();
    const last = swing.frames.length - 1;
    const seconds = swing.seconds * (slow ? SLOWER : 1);
    let next = requestAnimationFrame(function on(at) {
      const now = Math.min(last, Math.max(0, Math.floor((at - start) / 1000 / seconds)));
      show(now);
      if (now < last) next = requestAnimationFrame(on);
    });
    return () => cancelAnimationFrame(next);
  }, []);
  const drawing = { sheet: swing.sheet, strokes: swing.frames[frame] ?? [] };
  return <Figure drawing={drawing} label={label} className="h-full w-full" />;
}
