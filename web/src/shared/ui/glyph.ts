/** The shape of a ball on the tape: a stem leaning with the path, bent by the curve, a dot for the strike. */

export const GLYPH = { width: 34, height: 62, face: { x: 5, y: 40, width: 24, height: 17 } };

const LEAN = 2.4; // degrees on the tape for a degree of path
const BEND = 0.55; // tape units sideways for a degree of spin axis
const STEM = 30;
const FACE_MM = { x: 32, y: 24 }; // half width and half height of the face that fits the outline

export type BallShape = { stem: string; dot: { x: number; y: number } | null };

function clamp(value: number, limit: number): number {
  return Math.max(-limit, Math.min(limit, value));
}

/** Return stem path and dot position for one ball in the device frame (null: not measured). */
export function ballShape(
  path: number | null,
  axis: number | null,
  toe: number | null,
  high: number | null,
  hand: string,
): BallShape {
  const lean = (clamp((path ?? 0) * LEAN, 38) * Math.PI) / 180;
  const bend = clamp((axis ?? 0) * BEND, 11);
  const foot = { x: GLYPH.width / 2, y: GLYPH.face.y - 2 };
  const middle = { x: foot.x + Math.sin(lean) * STEM * 0.6, y: foot.y - Math.cos(lean) * STEM * 0.6 };
  const tip = { x: foot.x + Math.sin(lean) * STEM + bend, y: foot.y - Math.cos(lean) * STEM };
  const stem = `M${round(foot.x)} ${round(foot.y)}Q${round(middle.x)} ${round(middle.y)} ${round(tip.x)} ${round(tip.y)}`;
  if (toe === null) return { stem, dot: null };
  // Seen from behind the ball, a right-hander's toe points right, a left-hander's left.
  const side = hand === "left" ? -1 : 1;
  const { x, y, width, height } = GLYPH.face;
  return {
    stem,
    dot: {
      x: round(x + width / 2 + (side * clamp(toe, FACE_MM.x) * width) / 2 / FACE_MM.x),
      y: round(y + height / 2 - (clamp(high ?? 0, FACE_MM.y) * height) / 2 / FACE_MM.y),
    },
  };
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
