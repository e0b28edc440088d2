import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../format/language";
import { lineOf } from "./SwingFigure";

const HEAD = 10.5;

type Props = { drill: string; hand: string; title: string; className?: string };

/** A drill drawn with the object it is felt against; nothing for a drill of one's own. */
export function DrillFigure({ drill, hand, title, className }: Props) {
  const told = useQuery({ ...queries.drillFigure(drill, hand), enabled: !drill.startsWith("own-"), retry: false });
  return told.data ? <DrillDrawing picture={told.data} title={title} className={className} /> : null;
}

export function DrillDrawing({
  picture,
  title,
  className = "w-full",
}: {
  picture: Schemas["DrillPicture"];
  title: string;
  className?: string;
}) {
  return (
    <svg
      viewBox="-88 -196 176 204"
      className={className}
      role="img"
      aria-label={t("{title}, drawn at {moment}", { title, moment: picture.moment.replaceAll("-", " ") })}
    >
      <path d="M-88 2H88" className="stroke-rule" strokeWidth="1.5" />
      <g className="stroke-straw" strokeWidth="6" strokeLinecap="round">
        {picture.prop.map((segment, i) => (
          <path key={i} d={lineOf(segment)} />
        ))}
      </g>
      {picture.shaft && <path d={lineOf(picture.shaft)} className="stroke-soft" strokeWidth="2" />}
      <g className="fill-none stroke-ink" strokeWidth="6.5" strokeLinecap="round">
        {picture.bones.map((bone, i) => (
          <path key={i} d={lineOf(bone)} />
        ))}
      </g>
      <circle cx={100 * picture.head[0]} cy={-100 * picture.head[1]} r={HEAD} className="fill-ink" />
    </svg>
  );
}
