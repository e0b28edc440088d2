import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t, word } from "../format/language";
import { Figure } from "./Figure";

type Props = { drill: string; hand: string; title: string; className?: string };

/** A drawn drill with its object; space is reserved while loading. Own drills have none. */
export function DrillFigure({ drill, hand, title, className = "w-full" }: Props) {
  const result = useQuery({ ...queries.drillFigure(drill, hand), enabled: !drill.startsWith("own-"), retry: false });
  if (result.isLoading) return <div className={`aspect-[0.86] ${className}`} />;
  return result.data ? <DrillDrawing picture={result.data} title={title} className={className} /> : null;
}

type Drawing = { picture: Schemas["DrillPicture"]; title: string; className?: string };

export function DrillDrawing({ picture, title, className = "w-full" }: Drawing) {
  const label = t("common-drawn", { title, moment: word(picture.moment) });
  return <Figure drawing={picture} label={label} className={className} />;
}
