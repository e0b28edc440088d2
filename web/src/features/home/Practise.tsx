import { useState } from "react";
import type { Home } from "../../api/records";
import { DrillDrawing } from "../../shared/charts/DrillFigure";
import { fullDay, localDay } from "../../shared/format/days";
import { quoted, t } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { ChooseOne } from "../../shared/ui/Field";
import { Pain } from "./Pain";
import { addBall, type BallSeen, begin, finish, type Log, type PainRegion, tap, undo } from "./practice";

type Props = { home: Home; log: Log; change: (step: (log: Log) => Log) => void };

/** Today's drill with its figure and a large counter; one touch stops it for pain, before and during practice. */
export function Practise({ home, log, change }: Props) {
  const { page, figure } = home;
  const stopped = log.queue.findLast((e) => e.pain)?.pain || page.paused_for;
  if (stopped && !log.running) return <Pain region={stopped} home={home} />;
  if (!page.drill) return <p>{t("student-page-no-drill-time-see-page")}</p>;
  if (log.running) return <Counting home={home} log={log} change={change} />;
  const today = page.plan.find((p) => p.day === localDay(new Date()));
  const next = page.plan.find((p) => p.state === "to-come");
  return (
    <section aria-label={t("student-page-before-start")} className="flex flex-col gap-3">
      {log.finished && <Done log={log} />}
      <p className="text-lg">
        {today?.state === "done" && t("student-page-today-done")}
        {today && today.state !== "done" && t("student-page-today-minutes", { minutes: today.minutes })}
        {!today &&
          (next
            ? t("student-page-today-rest-day-next", { fullDay: fullDay(next.day) })
            : t("student-page-plan-complete-next-lesson-shows"))}
      </p>
      <p className="text-2xl leading-tight font-bold">{quoted(page.cue)}</p>
      <div className="grid grid-cols-[9rem_1fr] items-start gap-3">
        {figure && <DrillDrawing picture={figure} title={page.drill_name} />}
        <div className="text-[0.9375rem]">
          <p>{(today ?? next)?.text}</p>
          {today?.eased && <p className="text-soft">{t("student-page-after-missed-day-starts-again")}</p>}
          {lines(home, "correction")
            .slice(2)
            .map((line) => (
              <p key={line} className="mt-2">
                {line}
              </p>
            ))}
        </div>
      </div>
      <p className="text-sm text-soft">{home.not_medical}</p>
      <p className="text-lg font-semibold">{t("student-page-does-anything-hurt")}</p>
      <div className="grid gap-2">
        <Button
          strong
          className="min-h-14 text-lg"
          onClick={() => change((l) => begin(l, crypto.randomUUID(), new Date()))}
        >
          {t("student-page-nothing-hurts-start")}
        </Button>
        <StopForPain
          home={home}
          label={t("student-page-something-hurts")}
          onStop={(region) => change((l) => finish(begin(l, crypto.randomUUID(), new Date()), new Date(), region))}
        />
      </div>
    </section>
  );
}

function lines(home: Home, section: string): string[] {
  return home.page.sections.find((s) => s.id === section)?.lines ?? [];
}

function Done({ log }: { log: Log }) {
  const entry = log.finished;
  if (!entry) return null;
  const all = entry.felt + entry.not_felt;
  return (
    <Callout tone="moss" className="text-lg" role="status">
      {t("student-page-logged-felt", { felt: entry.felt, all })}
      {entry.balls.length > 0 && t("student-page-balls", { n: entry.balls.length })}.
    </Callout>
  );
}

function Counting({ home, log, change }: Props) {
  const { page } = home;
  const running = log.running;
  if (!running) return null;
  const count = running.felt + running.not_felt;
  const wanted = (page.plan.find((p) => p.day === localDay(new Date())) ?? page.plan[0])?.repetitions ?? 30;
  return (
    <section aria-label={t("student-page-counting")} className="flex grow flex-col gap-3">
      <p className="text-xl leading-tight font-bold">{quoted(page.cue)}</p>
      {page.felt_by && <p>{page.felt_by}</p>}
      <p aria-live="polite" className="text-center">
        <span className="text-7xl leading-none font-bold">{count}</span>
        <span className="text-2xl text-soft"> {t("student-page-of", { wanted })}</span>
        <span className="block text-soft">{t("student-page-felt-3", { felt: running.felt })}</span>
      </p>
      <div className="h-2 bg-rule" aria-hidden="true">
        <div className="h-2 bg-moss" style={{ width: `${Math.min(100, (100 * count) / wanted)}%` }} />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Count variant="border-moss bg-moss-ground text-moss" onClick={() => change((l) => tap(l, true, new Date()))}>
          {t("student-page-felt")}
        </Count>
        <Count variant="border-ink bg-sheet" onClick={() => change((l) => tap(l, false, new Date()))}>
          {t("student-page-did-not-feel")}
        </Count>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Button disabled={count === 0} onClick={() => change((l) => undo(l, new Date()))}>
          {t("student-page-undo-last")}
        </Button>
        <Button strong onClick={() => change((l) => finish(l, new Date()))}>
          {t("student-page-done-today")}
        </Button>
      </div>
      <StopForPain
        home={home}
        label={t("student-page-hurts-stop")}
        onStop={(region) => change((l) => finish(l, new Date(), region))}
      />
      <Balls home={home} count={running.balls.length} onBall={(ball) => change((l) => addBall(l, ball, new Date()))} />
    </section>
  );
}

/** Large enough for a thumb without looking. */
function Count({ variant, onClick, children }: { variant: string; onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`min-h-36 touch-manipulation rounded-sm border-2 text-2xl font-bold active:opacity-70 ${variant}`}
    >
      {children}
    </button>
  );
}

/** One touch opens the regions, one more stops the practice. */
function StopForPain({ home, label, onStop }: { home: Home; label: string; onStop: (region: PainRegion) => void }) {
  const [asking, setAsking] = useState(false);
  if (!asking) {
    return (
      <Button className="border-plum text-plum" onClick={() => setAsking(true)}>
        {label}
      </Button>
    );
  }
  return (
    <div role="group" aria-label={t("student-page-where-does-hurt")} className="border-2 border-plum p-3">
      <p className="mb-2 font-semibold text-plum">{t("student-page-where-does-hurt")}</p>
      <div className="grid grid-cols-2 gap-2">
        {Object.entries(home.words.region).map(([id, region]) => (
          <Button key={id} onClick={() => onStop(id as PainRegion)}>
            {region}
          </Button>
        ))}
        <Button onClick={() => setAsking(false)}>{t("student-page-no-pain-continue")}</Button>
      </div>
    </div>
  );
}

/** Balls hit at a range or into a net, in simple words. */
function Balls({ home, count, onBall }: { home: Home; count: number; onBall: (ball: BallSeen) => void }) {
  const [ball, setBall] = useState<BallSeen>({});
  const rows = [
    { name: "start", label: t("student-page-started"), options: home.words.starts },
    { name: "curve", label: t("student-page-curved"), options: home.words.curves },
    { name: "contact", label: t("student-page-felt-2"), options: home.words.contacts },
  ] as const;
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        {t("common-balls")}
        {count > 0 && `: ${count}`}
      </summary>
      <div className="flex flex-col gap-3">
        {rows.map(({ name, label, options }) => (
          <ChooseOne
            key={name}
            label={label}
            options={options.map((id) => ({
              id,
              label: name === "curve" && id === "straight" ? t("student-page-not-all") : capital(id),
            }))}
            value={ball[name] ?? ""}
            onChange={(value) => setBall((old) => ({ ...old, [name]: value || undefined }))}
          />
        ))}
        <Button
          disabled={!ball.start && !ball.curve && !ball.contact}
          onClick={() => {
            onBall(ball);
            setBall({});
          }}
        >
          {t("student-page-save-ball")}
        </Button>
      </div>
    </details>
  );
}
