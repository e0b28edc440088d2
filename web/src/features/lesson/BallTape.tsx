import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { type Shot, useKnowledge } from "../../api/queries";
import { inside, t, word } from "../../shared/format/language";
import { golferValue, say } from "../../shared/format/say";
import { KEYS, verdictName } from "../../shared/format/verdict";
import { BallGlyph } from "../../shared/ui/BallGlyph";
import { Select } from "../../shared/ui/Select";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { useBalls, useChosen, useDesk } from "./LessonContext";
import { choose } from "./selection";
import { CELL, FILTERS, type Filter, filtered, inSight, layOut } from "./tape";

const FOLDED = "instavis-tape-folded";
const QUIET = "min-h-11 shrink-0 text-sm text-soft underline-offset-4 hover:underline";

/** All balls of the lesson, newest right. A selection here applies everywhere. */
export function BallTape({ result, onHelp }: { result: string; onHelp: () => void }) {
  const { select, hand } = useDesk();
  const { shots, verdicts, excluded } = useBalls();
  const { selection, target } = useChosen();
  const [folded, fold] = useFolded();
  useWindowKeys((event) => {
    if (event.key !== KEYS.fold || event.ctrlKey || event.metaKey || typing(event.target) || inDialog()) return;
    fold(!folded);
  });
  const [filter, setFilter] = useState<Filter>("all");
  const shown = useMemo(() => filtered(shots, filter, excluded), [shots, filter, excluded]);
  const tape = useMemo(() => layOut(shown), [shown]);
  const strip = useRef<HTMLDivElement>(null);
  const sight = useSight(strip);
  const order = useMemo(() => shown.map((s) => s.id), [shown]);
  const newest = order.at(-1);
  // One function for all renders: thousands of balls must not be drawn anew for every choice.
  const latest = useRef({ selection, order, select });
  latest.current = { selection, order, select };
  const onChoose = useCallback((id: number, range: boolean, add: boolean) => {
    const now = latest.current;
    now.select(choose(now.selection, id, now.order, range, add));
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new ball is what it waits for
  useEffect(() => {
    strip.current?.scrollTo({ left: strip.current.scrollWidth });
  }, [newest]);

  useEffect(() => {
    const cell = selection.anchor === null ? undefined : tape.cells.find((c) => c.shot.id === selection.anchor);
    const view = strip.current;
    if (!cell || !view) return;
    if (cell.left < view.scrollLeft) view.scrollTo({ left: cell.left - CELL });
    else if (cell.left + CELL > view.scrollLeft + view.clientWidth)
      view.scrollTo({ left: cell.left + 2 * CELL - view.clientWidth });
  }, [selection.anchor, tape]);

  const count = (
    <p className="flex shrink-0 items-baseline gap-1.5">
      <span className={`leading-none font-bold ${folded ? "" : "text-2xl"}`}>{shots.length}</span>
      <span className="text-sm text-soft">{shots.length === 1 ? t("common-ball-4") : t("common-balls-2")}</span>
      {selection.ids.size > 0 && (
        <span className="text-sm text-clay">{t("lesson-selected", { size: selection.ids.size })}</span>
      )}
    </p>
  );
  if (folded)
    return (
      <section
        aria-label={t("common-balls")}
        className="no-print flex h-11 shrink-0 items-center gap-4 border-t border-rule bg-sheet px-3"
      >
        {count}
        <p role="status" className="min-w-0 grow truncate text-sm text-soft">
          {result}
        </p>
        <button type="button" className={QUIET} onClick={onHelp}>
          {t("lesson-keys-2")}
        </button>
        <button type="button" aria-expanded="false" className={QUIET} onClick={() => fold(false)}>
          {t("lesson-expand-tape")}
        </button>
      </section>
    );
  return (
    <section aria-label={t("common-balls")} className="no-print flex h-28 shrink-0 border-t border-rule bg-sheet">
      <div className="flex w-44 shrink-0 flex-col justify-between border-r border-rule px-3 py-2">
        <div className="flex items-baseline justify-between gap-2">
          {count}
          <button
            type="button"
            aria-expanded="true"
            className="min-h-6 text-xs text-soft underline-offset-4 hover:underline"
            onClick={() => fold(true)}
          >
            {t("lesson-collapse")}
          </button>
        </div>
        <p role="status" className="line-clamp-2 shrink-0 text-xs leading-tight text-soft">
          {result}
        </p>
        <div className="-my-2 flex items-center justify-between gap-1">
          <Select
            variant="bar"
            name={t("lesson-filter-balls")}
            letsGo
            className={`min-w-0 text-xs ${filter === "all" ? "" : "text-clay"}`}
            value={filter}
            options={FILTERS}
            onChange={(to) => setFilter(to as Filter)}
          />
          <button
            type="button"
            className="min-h-6 shrink-0 text-xs text-soft underline-offset-4 hover:underline"
            onClick={onHelp}
          >
            {t("lesson-keys-2")}
          </button>
        </div>
      </div>
      <div ref={strip} className="relative min-w-0 grow overflow-x-auto overflow-y-hidden" tabIndex={-1}>
        {shots.length === 0 && (
          <p className="flex h-full items-center px-4 text-soft">{t("lesson-balls-appear-here-they-hit")}</p>
        )}
        {shots.length > 0 && shown.length === 0 && (
          <p className="flex h-full items-center px-4 text-soft">{t("lesson-no-ball-fits-filter")}</p>
        )}
        <svg width={tape.width} height="1" className="block" aria-hidden="true" />
        {inSight(tape, sight.from, sight.width).map(({ shot, left, seam }) => (
          <Ball
            key={shot.id}
            shot={shot}
            left={left}
            seam={seam}
            hand={hand}
            chosen={selection.ids.has(shot.id)}
            reachable={shot.id === (target?.id ?? newest)}
            excluded={excluded.get(shot.id)}
            verdict={verdicts.get(shot.id)}
            onChoose={onChoose}
          />
        ))}
      </div>
    </section>
  );
}

/** Whether the tape is collapsed, as stored in this browser. */
function useFolded(): [boolean, (folded: boolean) => void] {
  const [folded, setFolded] = useState(() => localStorage.getItem(FOLDED) === "yes");
  return [
    folded,
    (next) => {
      localStorage.setItem(FOLDED, next ? "yes" : "no");
      setFolded(next);
    },
  ];
}

/** Scroll position and width of the strip. */
function useSight(strip: React.RefObject<HTMLDivElement | null>) {
  const [sight, setSight] = useState({ from: 0, width: 1200 });
  useLayoutEffect(() => {
    const view = strip.current;
    if (!view) return;
    const measure = () => setSight({ from: view.scrollLeft, width: view.clientWidth });
    measure();
    view.addEventListener("scroll", measure, { passive: true });
    const watch = new ResizeObserver(measure);
    watch.observe(view);
    return () => {
      view.removeEventListener("scroll", measure);
      watch.disconnect();
    };
  }, [strip]);
  return sight;
}

type BallProps = {
  shot: Shot;
  left: number;
  seam: string | null;
  hand: string;
  chosen: boolean;
  reachable: boolean;
  excluded: string | undefined;
  verdict: string | undefined;
  onChoose: (id: number, range: boolean, add: boolean) => void;
};

/** A seam's text: the stage's label, or a word for the block. */
function Seam({ seam }: { seam: string }) {
  const stage = useKnowledge().words.stage?.[seam];
  return <>{stage ? inside(stage) : word(seam)}</>;
}

const Ball = memo(function Ball({ shot, left, seam, hand, chosen, reachable, excluded, verdict, onChoose }: BallProps) {
  // The place is set through the element: the page's policy allows no style attributes.
  const place = (element: HTMLElement | null) => element?.style.setProperty("left", `${left}px`);
  return (
    <div ref={place} className="absolute inset-y-0 flex">
      {seam !== null && (
        <span
          className={`absolute inset-y-0 right-full flex items-end pb-1 pl-1 ${left > 60 ? "border-l-2 border-ink" : ""}`}
        >
          <span className="rotate-180 text-xs text-soft [writing-mode:vertical-rl]">
            <Seam seam={seam} />
          </span>
        </span>
      )}
      <button
        type="button"
        data-ball={shot.id}
        tabIndex={reachable ? 0 : -1}
        aria-pressed={chosen}
        title={shot.covered ? undefined : [excluded, shot.note].filter(Boolean).join(". ") || undefined}
        onClick={(event) => onChoose(shot.id, event.shiftKey, event.ctrlKey || event.metaKey)}
        className={`flex w-[44px] flex-col items-center justify-end border-b-4 px-1 pb-0.5 ${
          chosen ? "border-clay bg-straw-ground" : "border-transparent hover:bg-paper"
        }`}
      >
        <span className="sr-only">
          <BallWords shot={shot} verdict={verdict} excluded={excluded} />
        </span>
        <BallGlyph shot={shot} hand={hand} excluded={excluded !== undefined} verdict={verdict} />
        <span aria-hidden="true" className="text-xs text-soft">
          {shot.number}
          {shot.note && <NoteSlip />}
        </span>
      </button>
    </div>
  );
});

/** A slip of paper: the ball has a note, shown in its title and below its verdict. */
function NoteSlip() {
  return (
    <svg viewBox="0 0 9 10" className="ml-1 inline-block h-2.5 w-[9px] align-baseline" aria-hidden="true">
      <path d="M1 .5h5l2.5 2.5v6.5H1z" className="fill-straw-ground stroke-ink" strokeWidth="1" />
      <path d="M2.8 5h4M2.8 7h4" className="stroke-ink" strokeWidth="1" />
    </svg>
  );
}

function BallWords({ shot, verdict, excluded }: { shot: Shot; verdict?: string; excluded?: string }) {
  const knowledge = useKnowledge();
  const { hand, units } = useDesk();
  const path = knowledge.metrics.find((m) => m.id === "path_deg");
  const parts = [t("common-ball-2", { number: shot.number })];
  if (shot.covered) return <>{[...parts, t("lesson-hidden-until-movement-marked")].join(", ")}</>;
  if (path && shot.path_deg !== null)
    parts.push(t("lesson-path", { path: say(path, golferValue(path, shot.path_deg, hand), units) }));
  if (shot.movement)
    parts.push(t("lesson-movement-2", { movement: inside(knowledge.words.movement?.[shot.movement] ?? "") }));
  if (shot.intent) parts.push(t("lesson-hit-called", { intent: knowledge.words.intent?.[shot.intent] ?? shot.intent }));
  if (shot.turf) parts.push(t("lesson-turf-2", { turf: inside(knowledge.words.turf?.[shot.turf] ?? "") }));
  if (verdict)
    parts.push(t("lesson-verdict", { verdict: inside(verdictName(knowledge.words, verdict, shot.movement)) }));
  if (excluded) parts.push(t("lesson-excluded-2", { excluded }));
  if (shot.note) parts.push(t("lesson-note-4", { note: shot.note }));
  return <>{parts.join(", ")}</>;
}
