import { scaleLinear } from "d3-scale";
import type { ReactNode } from "react";

export type Dot = { id: number; x: number; y: number; apart: boolean; chosen: boolean };

type Props = {
  title: string;
  x: { label: string; plus: string; minus: string; half: number; unit: string };
  y: { label: string; plus: string; minus: string; half: number; unit: string };
  dots: Dot[];
  ground?: (x: (v: number) => number, y: (v: number) => number) => ReactNode;
  onChoose?: (id: number) => void;
};

const SIZE = { width: 340, height: 270, left: 34, right: 12, top: 22, bottom: 34 };

/** Two numbers of every ball on a plane whose four ends are named in words; a table stands behind it. */
export function PlaneMap({ title, x, y, dots, ground, onChoose }: Props) {
  const toX = scaleLinear([-x.half, x.half], [SIZE.left, SIZE.width - SIZE.right]).clamp(true);
  const toY = scaleLinear([-y.half, y.half], [SIZE.height - SIZE.bottom, SIZE.top]).clamp(true);
  return (
    <figure className="m-0">
      <figcaption className="mb-1 font-semibold">{title}</figcaption>
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="w-full" role="img" aria-label={`${title}: ${dots.length} balls`}>
        <rect
          x={SIZE.left}
          y={SIZE.top}
          width={SIZE.width - SIZE.left - SIZE.right}
          height={SIZE.height - SIZE.top - SIZE.bottom}
          className="fill-sheet stroke-rule"
        />
        {ground?.(toX, toY)}
        <path d={`M${toX(0)} ${SIZE.top}V${SIZE.height - SIZE.bottom}M${SIZE.left} ${toY(0)}H${SIZE.width - SIZE.right}`} className="stroke-rule" />
        <g className="fill-soft text-[12px]">
          {[-x.half, -x.half / 2, x.half / 2, x.half].map((v) => (
            <text key={v} x={toX(v)} y={SIZE.height - SIZE.bottom + 13} textAnchor="middle">
              {Math.abs(v)}
            </text>
          ))}
          <text x={SIZE.left} y={SIZE.height - 6}>
            ← {x.minus}
          </text>
          <text x={SIZE.width - SIZE.right} y={SIZE.height - 6} textAnchor="end">
            {x.plus} →
          </text>
          <text x={SIZE.left + 4} y={SIZE.top - 7}>
            ↑ {y.plus}
          </text>
          <text x={SIZE.left + 4} y={SIZE.height - SIZE.bottom - 6}>
            ↓ {y.minus}
          </text>
          {[-y.half, -y.half / 2, y.half / 2, y.half].map((v) => (
            <text key={v} x={SIZE.left - 5} y={toY(v) + 4} textAnchor="end">
              {Math.abs(v)}
            </text>
          ))}
        </g>
        {dots.map((dot) => (
          <DotMark key={dot.id} dot={dot} x={toX(dot.x)} y={toY(dot.y)} onChoose={onChoose} />
        ))}
      </svg>
      <details className="text-sm text-soft">
        <summary className="min-h-6 cursor-pointer">As a table</summary>
        <table className="w-full text-left">
          <thead>
            <tr>
              <th scope="col">Ball</th>
              <th scope="col">
                {x.label} [{x.unit}]
              </th>
              <th scope="col">
                {y.label} [{y.unit}]
              </th>
            </tr>
          </thead>
          <tbody>
            {dots.map((dot, i) => (
              <tr key={dot.id}>
                <td>{i + 1}</td>
                <td>{dot.x.toFixed(1)}</td>
                <td>{dot.y.toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </figure>
  );
}

function DotMark({ dot, x, y, onChoose }: { dot: Dot; x: number; y: number; onChoose?: (id: number) => void }) {
  const look = dot.apart ? "fill-none stroke-soft" : dot.chosen ? "fill-clay stroke-ink" : "fill-slate/70 stroke-sheet";
  return (
    <g onClick={() => onChoose?.(dot.id)}>
      {dot.apart ? (
        <path d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`} className="stroke-soft" strokeWidth="1.6" />
      ) : (
        <circle cx={x} cy={y} r={dot.chosen ? 6.5 : 5} className={look} />
      )}
    </g>
  );
}
