import type { Schemas } from "../../api/client";
import { t } from "../format/language";
import { Figure } from "./Figure";

const LABELS: Record<string, string> = { "face-on": "from the front", "down-the-line": "down the line" };

type Props = {
  picture: Schemas["LookPicture"];
  grade: Schemas["GradePicture"];
  title: string;
  className?: string;
};

/** A golfer at the moment of a look, with the line the look speaks of. */
export function SwingFigure({ picture, grade, title, className = "w-full" }: Props) {
  const label = t("{title}, {view}", { title, view: t(LABELS[picture.view] ?? "") });
  return <Figure drawing={grade} label={label} className={className} />;
}
