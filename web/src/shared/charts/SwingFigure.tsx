import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../format/language";
import { Figure } from "./Figure";

const LABELS: Record<string, string> = { "face-on": "common-front-2", "down-the-line": "common-down-line" };
/** Margin around the joints [m]: half of the widest stroke, the head, and some air. */
const AIR = 0.14;
const BELOW = 0.07;

type Picture = Schemas["CheckPicture"];
type Props = { picture: Picture; grade: Schemas["GradePicture"]; title: string; className?: string };

/** A golfer at the moment of a check, with its line; behind a fault stands the sound pose. */
export function SwingFigure({ picture, grade, title, className = "w-full" }: Props) {
  const label = t("common-title-view", { title, view: t(LABELS[picture.view] ?? "") });
  const sheet = useMemo(() => close(picture), [picture]);
  const sound = grade.sound ? undefined : picture.grades.find((g) => g.sound);
  const behind = sound?.strokes.filter((stroke) => stroke.ink === "body" || stroke.ink === "shaft");
  return <Figure drawing={{ sheet, strokes: grade.strokes }} behind={behind} label={label} className={className} />;
}

/** Return the smallest sheet that fits every answer's golfer, so that they can be compared. */
function close(picture: Picture): Picture["grades"][number]["sheet"] {
  const strokes = picture.grades.flatMap((grade) => grade.strokes);
  const points = strokes.filter(({ ink }) => ink !== "ground" && ink !== "line").flatMap(({ lines }) => lines.flat());
  const [across, up] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return [Math.min(...across) - AIR, -BELOW, Math.max(...across) + AIR, Math.max(...up) + AIR];
}
