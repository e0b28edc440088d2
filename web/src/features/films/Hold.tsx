import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, type Schemas } from "../../api/client";
import { at, type Lesson, queries } from "../../api/queries";
import { datedDay } from "../../shared/format/days";
import { t } from "../../shared/format/language";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { typing, useWindowKeys } from "../../shared/ui/useWindowKeys";

/** How two films are shown. */
export type View = { playing: boolean; slow: boolean; mirrored: boolean; laid: boolean; lines: boolean };

type Props = {
  lesson: Lesson;
  /** None for a single film. */
  pair: Schemas["PairIn"] | undefined;
  view: View;
  onView: (view: View) => void;
  onStep: (frames: number) => void;
  /** The position of the films and its range [s from the moment]. */
  after: number;
  span: [number, number];
  onAfter: (after: number) => void;
};

/** Step, play, display options; add the pair to the take-home page. */
export function Hold({ lesson, pair, view, onView, onStep, after, span, onAfter }: Props) {
  const turn = (name: keyof View) => () => onView({ ...view, [name]: !view[name] });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button aria-label={t("common-previous-frame")} onClick={() => onStep(-1)}>
        <KeyCap>←</KeyCap>
      </Button>
      <Button aria-pressed={view.playing} keyName={t("films-space")} onClick={turn("playing")}>
        {view.playing ? t("films-stop") : t("films-play")}
      </Button>
      <Button aria-label={t("common-next-frame")} onClick={() => onStep(1)}>
        <KeyCap>→</KeyCap>
      </Button>
      <input
        type="range"
        aria-label={t("films-before-after-moment")}
        aria-valuetext={t("films-ms-moment", { ms: Math.round(1000 * after) })}
        min={span[0]}
        max={span[1]}
        step={1 / 60}
        value={after}
        onChange={(event) => onAfter(Number(event.target.value))}
        className="min-h-11 w-24 grow accent-clay"
      />
      <span className="w-20 text-right text-sm text-soft">{t("films-ms", { ms: Math.round(1000 * after) })}</span>
      <Button aria-pressed={view.slow} keyName="s" onClick={turn("slow")}>
        {t("films-slow")}
      </Button>
      <Button aria-pressed={view.lines} keyName="l" onClick={turn("lines")}>
        {t("films-lines")}
      </Button>
      {pair && (
        <Button aria-pressed={view.laid} keyName="o" onClick={turn("laid")}>
          {t("films-overlay")}
        </Button>
      )}
      <Button aria-pressed={view.mirrored} keyName="m" onClick={turn("mirrored")}>
        {t("films-mirrored")}
      </Button>
      {pair && <GoesHome lesson={lesson} pair={pair} />}
    </div>
  );
}

/** Add the displayed pair to the take-home page. */
function GoesHome({ lesson, pair }: { lesson: Lesson; pair: Schemas["PairIn"] }) {
  const cache = useQueryClient();
  const put = useMutation({
    mutationFn: () => ask(client.PUT("/api/v1/lessons/{lesson_id}/pair", { ...at(lesson.id), body: pair })),
    onSettled: () => cache.invalidateQueries({ queryKey: queries.takeHome(lesson.id).queryKey }),
  });
  useWindowKeys((event) => {
    if (event.key !== "p" || typing(event.target) || event.ctrlKey || event.metaKey || put.isPending) return;
    event.preventDefault();
    put.mutate();
  });
  return (
    <>
      <Button strong disabled={put.isPending} keyName="p" onClick={() => put.mutate()}>
        {t("films-add-take-home")}
      </Button>
      {put.isError && <Notice error={put.error} />}
    </>
  );
}

/** The pair on the take-home page, and a button to remove it. */
export function OnThePage({ lesson }: { lesson: Lesson }) {
  const cache = useQueryClient();
  const pair = useQuery(queries.takeHome(lesson.id)).data?.pair;
  const drop = useMutation({
    mutationFn: () => ask(client.DELETE("/api/v1/lessons/{lesson_id}/pair", at(lesson.id))),
    onSettled: () => cache.invalidateQueries({ queryKey: queries.takeHome(lesson.id).queryKey }),
  });
  if (drop.isError) return <Notice error={drop.error} />;
  if (!pair) return null;
  return (
    <p role="status" className="flex items-center gap-3 text-sm text-soft">
      {t("films-take-home-page", {
        moment: pair.moment_name,
        before: swing(pair.before_ball, pair.before_day),
        now: swing(pair.now_ball, pair.now_day),
      })}
      <Button disabled={drop.isPending} onClick={() => drop.mutate()}>
        {t("films-remove-take-home")}
      </Button>
    </p>
  );
}

const swing = (ball: number | null | undefined, day: string) =>
  typeof ball === "number" ? t("common-ball-5", { ball }) : datedDay(day);
