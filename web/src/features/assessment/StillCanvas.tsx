import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { t } from "../../shared/format/language";

import { movedBy, type Place, placeOf, type Still } from "./stills";

type Props = {
  still: Still;
  names: Record<string, string>;
  /** What the next click sets; empty if nothing is needed on this picture. */
  asked: string;
  /** The first end of a known length, waiting for the second. */
  from: Place | null;
  onPlace: (place: Place) => void;
  onMove: (landmark: string, place: Place) => void;
};

/** A picture to click on, by pointer or by arrow keys and Enter. Points can be dragged. */
export function StillCanvas({ still, names, asked, from, onPlace, onMove }: Props) {
  const sheet = useRef<SVGSVGElement>(null);
  const [cursor, setCursor] = useState<Place>([still.width / 2, still.height / 2]);
  const [dragged, drag] = useState<{ name: string; at: Place } | null>(null);
  const size = Math.max(still.width, still.height) / 100;

  function pressed(event: PointerEvent): Place {
    const box = sheet.current?.getBoundingClientRect();
    return box ? placeOf([event.clientX, event.clientY], box, still) : cursor;
  }
  function onKey(event: KeyboardEvent) {
    const moved = movedBy(event.key, event.shiftKey, cursor, still);
    if (moved) setCursor(moved);
    else if (event.key === "Enter" && asked) onPlace(cursor);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  return (
    <div className="relative">
      <img
        src={`/api/v1/stills/${still.id}/picture`}
        alt=""
        width={still.width}
        height={still.height}
        className="block h-auto w-full"
      />
      <svg
        ref={sheet}
        viewBox={`0 0 ${still.width} ${still.height}`}
        className={`absolute inset-0 h-full w-full touch-none ${asked ? "cursor-crosshair" : ""}`}
        role="application"
        tabIndex={0}
        aria-label={asked ? t("check-picture-set-click-move-arrow", { asked }) : t("common-picture")}
        onKeyDown={onKey}
        onPointerDown={(event) => {
          const place = pressed(event);
          setCursor(place);
          if (asked) onPlace(place);
        }}
        onPointerMove={(event) => dragged && drag({ ...dragged, at: pressed(event) })}
        onPointerUp={() => {
          if (dragged) onMove(dragged.name, dragged.at);
          drag(null);
        }}
      >
        {still.scale && (
          <path
            d={`M${still.scale.a.join(" ")}L${still.scale.b.join(" ")}`}
            className="stroke-straw"
            strokeWidth={size / 2.5}
          />
        )}
        {from && <circle cx={from[0]} cy={from[1]} r={size / 1.5} className="fill-straw" />}
        {Object.entries(still.points).map(([name, saved]) => {
          const [x, y] = dragged?.name === name ? dragged.at : (saved as Place);
          return (
            <g
              key={name}
              className="cursor-move"
              onPointerDown={(event) => {
                if (asked) return;
                event.stopPropagation();
                sheet.current?.setPointerCapture(event.pointerId);
                drag({ name, at: [x, y] });
              }}
            >
              <circle cx={x} cy={y} r={2.4 * size} fill="transparent" />
              <circle cx={x} cy={y} r={size} className="fill-clay/40 stroke-clay" strokeWidth={size / 4} />
              <path
                d={`M${x - 1.6 * size} ${y}h${3.2 * size}M${x} ${y - 1.6 * size}v${3.2 * size}`}
                className="stroke-sheet"
                strokeWidth={size / 6}
              />
              <text
                x={x + 1.6 * size}
                y={y - size}
                className="fill-ink stroke-sheet font-semibold"
                strokeWidth={size / 2}
                paintOrder="stroke"
                fontSize={2.2 * size}
              >
                {names[name] ?? name}
              </text>
            </g>
          );
        })}
        {asked && (
          <path
            d={`M${cursor[0] - 3 * size} ${cursor[1]}h${6 * size}M${cursor[0]} ${cursor[1] - 3 * size}v${6 * size}`}
            className="pointer-events-none stroke-slate"
            strokeWidth={size / 4}
          />
        )}
      </svg>
    </div>
  );
}
