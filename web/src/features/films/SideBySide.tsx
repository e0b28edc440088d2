import { useQueries, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Lesson, queries, useKnowledge } from "../../api/queries";
import { t, word } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { Tabs } from "../../shared/ui/Tabs";
import { typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { Differences } from "./Differences";
import { FilmPane } from "./FilmPane";
import {
  type Drawn,
  type Film,
  type FilmRow,
  frameAt,
  middle,
  reach,
  type Side,
  shaftAtAddress,
  steepness,
} from "./film";
import { Hold, type View } from "./Hold";
import { rowName } from "./names";
import { Strip } from "./Strip";

const STEP = 1 / 60; // s a key goes on by
const SLOW = 0.25;

type Props = {
  lesson: Lesson;
  /** None without a second film from the same side. */
  before?: FilmRow | undefined;
  now: FilmRow;
  rows: FilmRow[];
  dayOf: (row: FilmRow) => string;
  onChoose: (side: Side, recording: number) => void;
};

type Held = {
  moment: string;
  hold: (moment: string) => void;
  view: View;
  setView: (change: (old: View) => View) => void;
};

/** One film, or two side by side, once loaded; moment and options stay for the next ball. */
export function SideBySide(props: Props) {
  const [moment, hold] = useState("halfway-down");
  const [view, setView] = useState<View>({ playing: false, slow: true, mirrored: false, laid: false, lines: true });
  const shown = props.before ? [props.before, props.now] : [props.now];
  const loaded = useQueries({ queries: shown.map((row) => queries.film(row.id)) });
  const failed = loaded.find((one) => one.error)?.error;
  if (failed) return <Notice error={failed} />;
  const films = loaded.flatMap((one) => one.data ?? []);
  if (films.length < shown.length) return <p className="py-6 text-soft">{t("films-loading-films")}</p>;
  return <Shown key={shown.map((row) => row.id).join()} {...props} {...{ moment, hold, view, setView, films }} />;
}

function Shown(props: Props & Held & { films: Film[] }) {
  const { lesson, before, now, rows, dayOf, onChoose, films, moment, hold, view, setView } = props;
  const moments = useKnowledge().words.moment ?? {};
  const last = films.length - 1;
  const [after, go] = useState(0);
  // Where nobody has drawn it, the line only waits to be taken hold of: it has no angle to tell.
  const [drawn, draw] = useState<(Drawn | undefined)[]>([]);
  const shafts = films.map((film, i) => drawn[i] ?? shaftAtAddress(film));
  const [from, to] = reach(films, moment);
  const step = (by: number) => go((old) => Math.min(to, Math.max(from, old + by)));
  const known = Object.keys(films[last]?.moments ?? {});
  const stop = (at: string) => {
    hold(at);
    go(0);
    setView((old) => ({ ...old, playing: false }));
  };
  usePlaying(view, (seconds) => go((old) => (old + seconds > to ? from : old + seconds)));
  useWindowKeys((event) => {
    if (typing(event.target) || event.altKey || event.ctrlKey || event.metaKey) return;
    const target = event.target as HTMLElement;
    const grouped = target.closest?.("[role=group]") !== null;
    const at = known[Number(event.key) - 1];
    const turn = (name: keyof View) => setView((old) => ({ ...old, [name]: !old[name] }));
    if (at) stop(at);
    else if (event.key === "ArrowLeft" && !grouped) step(-STEP);
    else if (event.key === "ArrowRight" && !grouped) step(STEP);
    else if (event.key === " " && target.tagName !== "BUTTON") turn("playing");
    else if (event.key === "s") turn("slow");
    else if (event.key === "m") turn("mirrored");
    else if (event.key === "o" && before) turn("laid");
    else if (event.key === "l") turn("lines");
    else return;
    event.preventDefault();
  });
  const frames = films.map((film) => frameAt(film, moment, after));
  const same = rows.filter((row) => row.view === now.view);
  const mixed = same.length < rows.length;
  const called = (row: FilmRow) => rowName(row, dayOf(row)) + (mixed ? `, ${word(row.view)}` : "");
  const sides = before
    ? [
        { side: "before" as const, label: t("common-before"), row: before, choices: same },
        { side: "now" as const, label: t("common-now"), row: now, choices: rows },
      ]
    : [{ side: "now" as const, label: t("films-film"), row: now, choices: rows }];
  return (
    <>
      <div className={before ? "grid grid-cols-2 gap-3" : "mx-auto w-full max-w-5xl"}>
        {films.map((film, i) => (
          <figure key={film.id + i} className="min-w-0">
            <FilmPane
              film={film}
              frame={frames[i] ?? 0}
              over={i === 1 && view.laid ? { film: films[0] as Film, frame: frames[0] ?? 0 } : undefined}
              mirrored={view.mirrored}
              lines={view.lines}
              shaft={shafts[i] as Drawn}
              onShaft={(line) => draw((old) => films.map((_, j) => (i === j ? line : old[j])))}
              result={`${sides[i]?.label}: ${called(sides[i]?.row ?? now)}, ${moments[moment]}`}
            />
            <figcaption className="flex flex-wrap items-center justify-between gap-x-4 text-sm">
              <Select
                variant="bar"
                label={sides[i]?.label ?? ""}
                value={String(film.id)}
                options={(sides[i]?.choices ?? []).map((row) => ({ id: String(row.id), label: called(row) }))}
                onChange={(id) => onChoose(sides[i]?.side ?? "now", Number(id))}
              />
              {view.lines && (
                <span className="text-soft">
                  {t("films-trunk-picture", { trunk: Math.round(trunkLean(film, frames[i] ?? 0)) })}
                  {drawn[i] && t("films-shaft-line", { shaft: Math.round(steepness(shafts[i] as Drawn, film)) })}
                </span>
              )}
            </figcaption>
          </figure>
        ))}
      </div>
      <Tabs
        label={t("common-moment")}
        tabs={known.map((id, i) => ({ id, label: `${i + 1} ${moments[id] ?? id}` }))}
        value={moment}
        onChange={stop}
      />
      <Hold
        lesson={lesson}
        pair={before && { before: before.id, now: now.id, moment }}
        view={view}
        onView={(to) => setView(() => to)}
        onStep={(direction) => step(direction * STEP)}
        after={after}
        span={[from, to]}
        onAfter={go}
      />
      {before ? (
        <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,32.5rem)]">
          <Strip
            rows={same}
            moment={moment}
            mirrored={view.mirrored}
            now={now.id}
            dayOf={dayOf}
            onChoose={(row) => onChoose("now", row.id)}
          />
          <WhatDiffers before={before.id} now={now.id} moment={moment} name={moments[moment] ?? moment} />
        </div>
      ) : (
        <p className="text-sm text-soft">{t("films-add-second-film-same-side")}</p>
      )}
    </>
  );
}

function WhatDiffers({ before, now, moment, name }: { before: number; now: number; moment: string; name: string }) {
  const differences = useQuery(queries.beside(before, now));
  return (
    <section aria-label={t("films-differences")}>
      {differences.isError && <Notice error={differences.error} />}
      {differences.data && <Differences rows={differences.data.filter((row) => row.at === moment)} moment={name} />}
    </section>
  );
}

/** Return how far the line from hips to shoulders leans in the picture [°]. */
function trunkLean(film: Film, frame: number): number {
  const hips = middle(film, frame, "lead_hip", "trail_hip");
  return 90 - steepness({ from: hips, to: middle(film, frame, "lead_shoulder", "trail_shoulder") }, film);
}

/** Call with the seconds of film since the last frame while playing. */
function usePlaying({ playing, slow }: View, onPassed: (seconds: number) => void) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: the newest function is always the same action
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let next = requestAnimationFrame(function on(at) {
      onPassed(((at - last) / 1000) * (slow ? SLOW : 1));
      last = at;
      next = requestAnimationFrame(on);
    });
    return () => cancelAnimationFrame(next);
  }, [playing, slow]);
}
