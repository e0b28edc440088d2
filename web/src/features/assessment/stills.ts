/** The guided order of clicks on pictures. */
import type { Schemas } from "../../api/client";

export type Still = Schemas["StillOut"];
export type Guide = Schemas["GuideOut"];
export type Place = [number, number];

export type Step =
  | { do: "add"; which: "address" | "check" }
  | { do: "click"; which: "address" | "check"; landmark: string }
  | { do: "scale"; which: "address" | "check" }
  | { do: "done" };

/** Return the next step: pictures first, then landmarks on each, then the known length once. */
export function nextStep(guide: Guide, still: Still | undefined, address: Still | undefined): Step {
  if (guide.since_address && !address) return { do: "add", which: "address" };
  if (!still) return { do: "add", which: "check" };
  if (guide.since_address && address) {
    const open = guide.points.find((p) => !(p in address.points));
    if (open) return { do: "click", which: "address", landmark: open };
  }
  const open = guide.points.find((p) => !(p in still.points));
  if (open) return { do: "click", which: "check", landmark: open };
  if (guide.needs_length && !still.scale && !address?.scale)
    return { do: "scale", which: guide.since_address ? "address" : "check" };
  return { do: "done" };
}

/** Convert a click on the displayed picture to its own pixels, inside it. */
export function placeOf(
  press: Place,
  box: { left: number; top: number; width: number; height: number },
  still: { width: number; height: number },
): Place {
  const x = ((press[0] - box.left) / box.width) * still.width;
  const y = ((press[1] - box.top) / box.height) * still.height;
  return inside([x, y], still);
}

export function inside([x, y]: Place, still: { width: number; height: number }): Place {
  const round = (v: number, most: number) => Math.round(10 * Math.min(Math.max(v, 0), most)) / 10;
  return [round(x, still.width), round(y, still.height)];
}

/** Return the cursor moved by a key, or null. */
export function movedBy(
  key: string,
  shift: boolean,
  [x, y]: Place,
  still: { width: number; height: number },
): Place | null {
  const by = shift ? 20 : 2;
  const moves: Record<string, Place> = {
    ArrowLeft: [-by, 0],
    ArrowRight: [by, 0],
    ArrowUp: [0, -by],
    ArrowDown: [0, by],
  };
  const move = moves[key];
  return move ? inside([x + move[0], y + move[1]], still) : null;
}
