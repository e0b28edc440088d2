import { type PointerEvent, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useKnowledge } from "../../api/queries";
import { fixed, t, word } from "../../shared/format/language";
import { signed } from "../../shared/format/say";
import { CURVE, curveOf, valueAt } from "./curves";

type Swing = Schemas["RecordingRead"];
type Props = {
  swing: Swing;
  chosen: string;
  onChoose: (moment: string) => void;
  onDrop: (moment: string, at: number) => void;
};

/** All recorded series over time; vertical lines are moments, horizontal ones the bounds of windows. */
export function Curves({ swing, chosen, onChoose, onDrop }: Props) {
  const { series, windows } = useKnowledge();
  const [dragged, drag] = useState<{ moment: string; at: number } | null>(null);
  return (
    <div className="flex flex-col gap-1">
      {Object.entries(swing.curves).map(([name, values]) => {
        const result = series.find((s) => s.id === name);
        const bounds = windows.filter((w) => w.series === name && !w.since);
        return (
          <One
            key={name}
            swing={swing}
            values={values}
            label={result?.label ?? name}
            unit={result?.unit ?? ""}
            bounds={bounds}
            chosen={chosen}
            dragged={dragged}
            onChoose={onChoose}
            onDrag={drag}
            onDrop={(moment, at) => {
              drag(null);
              onDrop(moment, at);
            }}
          />
        );
      })}
    </div>
  );
}

type Dragged = { moment: string; at: number };
type OneProps = {
  swing: Swing;
  values: number[];
  label: string;
  unit: string;
  bounds: Schemas["Window"][];
  chosen: string;
  dragged: Dragged | null;
  onChoose: (moment: string) => void;
  onDrag: (dragged: Dragged) => void;
  onDrop: (moment: string, at: number) => void;
};

const GRAB = 7;

function One({ swing, values, label, unit, bounds, chosen, dragged, onChoose, onDrag, onDrop }: OneProps) {
  const sheet = useRef<SVGSVGElement>(null);
  const curve = curveOf(swing.time, values);
  const at = (moment: string) => (dragged?.moment === moment ? dragged.at : (swing.moments.at[moment] ?? 0));
  const digits = unit ? 1 : 2;
  const now = valueAt(swing.time, values, at(chosen));

  function timeOf(event: PointerEvent): number {
    const box = sheet.current?.getBoundingClientRect();
    if (!box) return 0;
    return Math.round(1000 * curve.x.invert(((event.clientX - box.left) / box.width) * CURVE.width)) / 1000;
  }
  return (
    <figure className="m-0">
      <figcaption className="flex justify-between text-sm">
        <span>{label}</span>
        <span className="text-soft">
          {word(chosen)}: {signed(now, digits)}
          {unit === "°" ? "°" : ` ${unit}`}
        </span>
      </figcaption>
      <svg
        ref={sheet}
        viewBox={`0 0 ${CURVE.width} ${CURVE.height}`}
        className="w-full touch-none border border-rule bg-sheet"
        role="img"
        aria-label={t("check-from-to", {
          label,
          low: fixed(curve.low, digits),
          high: fixed(curve.high, digits),
          unit,
        })}
      >
        <path d={`M0 ${curve.y(0)}H${CURVE.width}`} className="stroke-rule" />
        {bounds.map((w) => {
          const bound = w.above ?? w.below ?? 0;
          if (bound < curve.low || bound > curve.high) return null;
          const x = curve.x(at(w.at));
          return <path key={w.id} d={`M${x - 14} ${curve.y(bound)}h28`} className="stroke-straw" strokeWidth="3" />;
        })}
        <path d={curve.path} className="fill-none stroke-clay" strokeWidth="2" />
        {Object.keys(swing.moments.at).map((moment) => {
          const x = curve.x(at(moment));
          const byHand = swing.moments.set_by_hand.includes(moment);
          return (
            <g
              key={moment}
              className="cursor-ew-resize"
              onPointerDown={(event) => {
                onChoose(moment);
                event.currentTarget.setPointerCapture(event.pointerId);
                onDrag({ moment, at: at(moment) });
              }}
              onPointerMove={(event) => dragged?.moment === moment && onDrag({ moment, at: timeOf(event) })}
              onPointerUp={() =>
                dragged?.moment === moment && dragged.at !== swing.moments.at[moment] && onDrop(moment, dragged.at)
              }
            >
              <title>{word(moment)}</title>
              <rect x={x - GRAB} y="0" width={2 * GRAB} height={CURVE.height} fill="transparent" />
              <path
                d={`M${x} 0V${CURVE.height}`}
                className={moment === chosen ? "stroke-ink" : "stroke-soft"}
                strokeWidth={moment === chosen ? 2 : 1}
                strokeDasharray={byHand ? undefined : "3 3"}
              />
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
