import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

type Props = {
  label: string;
  unit: string;
  values: number[];
  /** Where the correction should bring them; a guard has none. */
  predicted?: number;
  low: number;
  high: number;
  step: number;
  onChange: (low: number, high: number) => void;
};

const SIZE = { width: 560, height: 92, side: 26 };

/** The gate on the baseline's own balls: two posts to drag or to move with the arrow keys. */
export function GateRuler({ label, unit, values, predicted, low, high, step, onChange }: Props) {
  const sheet = useRef<SVGSVGElement>(null);
  const [held, hold] = useState<"low" | "high" | null>(null);
  const reach = [...values, low, high, ...(predicted === undefined ? [] : [predicted])];
  const x = scaleLinear(
    [Math.min(...reach) - 2 * step, Math.max(...reach) + 2 * step],
    [SIZE.side, SIZE.width - SIZE.side],
  ).nice();

  function put(end: "low" | "high", wanted: number) {
    const value = Math.round(wanted / step) * step;
    if (end === "low") onChange(Math.min(value, high - step), high);
    else onChange(low, Math.max(value, low + step));
  }
  function drag(event: PointerEvent) {
    const box = sheet.current?.getBoundingClientRect();
    if (box && held) put(held, x.invert(((event.clientX - box.left) / box.width) * SIZE.width));
  }
  function key(event: KeyboardEvent, end: "low" | "high") {
    const by = { ArrowLeft: -step, ArrowDown: -step, ArrowRight: step, ArrowUp: step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    put(end, (end === "low" ? low : high) + by);
  }
  return (
    // biome-ignore lint/a11y/noSvgWithoutTitle: its two handles are sliders with names of their own
    <svg
      ref={sheet}
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full max-w-2xl touch-none"
      onPointerMove={drag}
      onPointerUp={() => hold(null)}
    >
      <rect x={x(low)} y="14" width={Math.max(0, x(high) - x(low))} height="44" className="fill-straw-ground" />
      <path d={`M${SIZE.side} 58H${SIZE.width - SIZE.side}`} className="stroke-soft" />
      {values.map((v, i) => (
        <circle key={i} cx={x(v)} cy={38 + 5 * ((i % 5) - 2)} r="4" className="fill-slate/60" />
      ))}
      {predicted !== undefined && (
        <g>
          <path d={`M${x(predicted)} 16V58`} className="stroke-moss" strokeWidth="2" strokeDasharray="4 3" />
          <text x={x(predicted)} y="11" textAnchor="middle" className="fill-moss text-[12px]">
            predicted
          </text>
        </g>
      )}
      {x.ticks(7).map((t) => (
        <text key={t} x={x(t)} y="72" textAnchor="middle" className="fill-soft text-[11px]">
          {String(t).replace("-", "−")}
        </text>
      ))}
      {(["low", "high"] as const).map((end) => {
        const at = end === "low" ? low : high;
        return (
          <g
            key={end}
            role="slider"
            tabIndex={0}
            aria-label={`${label}, gate ${end === "low" ? "from" : "to"}`}
            aria-valuenow={at}
            aria-valuemin={x.domain()[0]}
            aria-valuemax={x.domain()[1]}
            aria-valuetext={`${at} ${unit}`}
            className="cursor-ew-resize"
            onKeyDown={(event) => key(event, end)}
            onPointerDown={(event) => {
              sheet.current?.setPointerCapture(event.pointerId);
              hold(end);
            }}
          >
            <rect x={x(at) - 22} y="8" width="44" height="56" fill="transparent" />
            <path d={`M${x(at)} 12V60`} className="stroke-ink" strokeWidth="5" strokeLinecap="round" />
          </g>
        );
      })}
      <text x={SIZE.width / 2} y="88" textAnchor="middle" className="fill-soft text-[12px]">
        the dots are the baseline's balls [{unit}]
      </text>
    </svg>
  );
}
