import { type Ranking, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { chance } from "../../shared/format/say";
import { worthOf } from "../../shared/format/worth";
import { Meter } from "../../shared/ui/Meter";
import { type Ribbon, ROW, ribbonsOf } from "./board";

const HEIGHT = ROW.count * ROW.fault;

/** Evidence left, faults in the middle, checks right; ribbon width shows the weight. */
export function CauseBoard({
  ranking,
  opened,
  onOpen,
}: {
  ranking: Ranking;
  opened?: string;
  onOpen: (id: string) => void;
}) {
  const board = ribbonsOf(ranking, useKnowledge().checks);
  return (
    <section aria-label={t("cause-cause-board")} data-picture>
      <div className="grid grid-cols-[minmax(0,1fr)_2rem_minmax(0,1.25fr)_2rem_minmax(0,0.85fr)] max-lg:text-sm lg:grid-cols-[16.875rem_5.625rem_1fr_5.625rem_15.625rem]">
        <Column title={t("cause-evidence")} end />
        <span />
        <Column title={t("common-faults")} />
        <span />
        <Column title={t("cause-checks-would-help")} />
        <ul className="flex flex-col">
          {board.evidence.map((e) => (
            <li
              key={e.key}
              className="flex items-center justify-end pr-1.5 text-right leading-tight"
              style={tall(ROW.evidence)}
            >
              <span className={e.kind === "check" ? "text-clay" : e.kind === "metric" ? "text-slate" : "text-ink"}>
                {e.text}
              </span>
            </li>
          ))}
        </ul>
        <Ribbons ribbons={board.left} opened={opened} />
        <ol className="flex flex-col">
          {board.faults.map((fault) => (
            <li key={fault.id} style={tall(ROW.fault)} className="flex items-center">
              <button
                type="button"
                aria-pressed={fault.id === opened}
                onClick={() => onOpen(fault.id)}
                className={`w-full border px-2 py-1 text-left lg:px-3 leading-tight lg:py-1.5 ${fault.id === opened ? "border-ink bg-sheet" : "border-rule bg-paper hover:border-ink"}`}
              >
                <span className="flex items-baseline justify-between gap-2 lg:gap-3">
                  <span className="font-semibold">{fault.label}</span>
                  <span className="text-soft">{fault.word}</span>
                </span>
                <Meter
                  share={fault.probability}
                  label={t("common-probability", { chance: chance(fault.probability) })}
                  tone="clay"
                />
              </button>
            </li>
          ))}
        </ol>
        <Ribbons ribbons={board.right} opened={opened} />
        <ul className="flex flex-col">
          {board.checks.map((check) => (
            <li key={check.id} className="flex flex-col justify-center pl-1.5 leading-tight" style={tall(ROW.check)}>
              <span className="font-medium">{check.label}</span>
              <span className="text-sm text-soft">{worthOf(check.gain_bits, board.checks[0]?.gain_bits ?? 0)}</span>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

/** Heights of the board in pixels of usual type; they grow with it. */
const tall = (pixels: number) => ({ height: `${pixels / 16}rem` });

function Column({ title, end = false }: { title: string; end?: boolean }) {
  return <h3 className={`mb-1 text-sm font-semibold text-soft ${end ? "text-right" : ""}`}>{title}</h3>;
}

function Ribbons({ ribbons, opened }: { ribbons: Ribbon[]; opened?: string }) {
  return (
    <svg
      viewBox={`0 0 90 ${HEIGHT}`}
      preserveAspectRatio="none"
      className="w-full"
      style={tall(HEIGHT)}
      aria-hidden="true"
    >
      {ribbons.map((r) => (
        <path
          key={r.key}
          d={`M2 ${r.from}C45 ${r.from} 45 ${r.to} 88 ${r.to}`}
          fill="none"
          strokeWidth={r.width}
          strokeDasharray={r.against ? "4 4" : undefined}
          className={`${r.against ? "stroke-plum" : r.side === "left" ? "stroke-slate" : "stroke-moss"} ${r.fault === opened ? "opacity-80" : "opacity-25"}`}
        />
      ))}
    </svg>
  );
}
