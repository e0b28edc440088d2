/** Which frame is shown when, which films are compared, and where lines are. */
import type { Schemas } from "../../api/client";

export type Film = Schemas["FilmRead"];
export type FilmRow = Schemas["FilmRow"];
export type Side = "before" | "now";
export type Place = [number, number];
/** A hand-drawn line: its ends in shares of the picture. */
export type Drawn = { from: Place; to: Place };

/** Return the frame nearest to a time [s] after a moment. */
export function frameAt(film: Film, moment: string, after: number): number {
  const wanted = (film.moments[moment] ?? 0) + after;
  let nearest = 0;
  for (let i = 1; i < film.times.length; i++)
    if (Math.abs((film.times[i] ?? 0) - wanted) < Math.abs((film.times[nearest] ?? 0) - wanted)) nearest = i;
  return nearest;
}

/** Return the range in which two films, aligned at a moment, overlap [s after it]. */
export function reach(films: Film[], moment: string): [number, number] {
  const ends = films.map((film) => {
    const at = film.moments[moment] ?? 0;
    return [(film.times[0] ?? 0) - at, (film.times.at(-1) ?? 0) - at] as const;
  });
  return [Math.max(...ends.map(([from]) => from)), Math.min(...ends.map(([, to]) => to))];
}

/** Return the bytes of one picture. */
export function pictureOf(film: Film, pictures: ArrayBuffer, frame: number): Blob {
  const from = film.sizes.slice(0, frame).reduce((sum, size) => sum + size, 0);
  return new Blob([pictures.slice(from, from + (film.sizes[frame] ?? 0))], { type: "image/jpeg" });
}

/** Return how to overlay a film on another: scale and offset [px of the other], feet on feet. */
export function laidOver(film: Film, other: Film): { scale: number; x: number; y: number } {
  const scale = (other.lines.centimetre * other.height) / (film.lines.centimetre * film.height);
  const [x, y] = film.lines.feet;
  const [otherX, otherY] = other.lines.feet;
  return {
    scale,
    x: otherX * other.width - scale * x * film.width,
    y: otherY * other.height - scale * y * film.height,
  };
}

/** Return the angle of a line to the picture's horizontal [°], 0 to 90. */
export function steepness({ from, to }: Drawn, film: Film): number {
  const across = (to[0] - from[0]) * film.width;
  const up = (to[1] - from[1]) * film.height;
  return (Math.atan2(Math.abs(up), Math.abs(across)) * 180) / Math.PI;
}

/** Return the center of landmarks in one frame. */
export function middle(film: Film, frame: number, ...names: string[]): Place {
  const places = names.map((name) => film.landmarks[name]?.[frame] ?? [0, 0]);
  const mean = (axis: 0 | 1) => places.reduce((sum, place) => sum + (place[axis] ?? 0), 0) / places.length;
  return [mean(0), mean(1)];
}

/** Guess the shaft at address: from the hands to the ground in front of the feet, on the ball's side. */
export function shaftAtAddress(film: Film): Drawn {
  const [left, top, across, high] = film.lines.hands;
  const from: Place = [left + across / 2, top + high / 2];
  const [feetX, feetY] = film.lines.feet;
  const away = film.view === "down-the-line" ? Math.sign(from[0] - feetX) * 45 : 0;
  const to: Place = [from[0] + (away * film.lines.centimetre * film.height) / film.width, feetY];
  return { from, to };
}

export type Asked = { before: number | undefined; now: number | undefined };

/** Return the two films to compare: those asked for, otherwise the first of the baseline and the newest. */
export function chosenPair(rows: FilmRow[], asked: Asked): { before?: FilmRow; now?: FilmRow } {
  const now = rows.find((row) => row.id === asked.now) ?? rows.find((row) => row.id !== asked.before);
  if (!now) return {};
  const same = rows.filter((row) => row.view === now.view && row.id !== now.id);
  const earlier = same.filter((row) => row.purpose === "baseline");
  const here = earlier.filter((row) => row.lesson_id === now.lesson_id);
  const before = same.find((row) => row.id === asked.before) ?? here.at(-1) ?? earlier[0] ?? same.at(-1);
  return before ? { before, now } : { now };
}
