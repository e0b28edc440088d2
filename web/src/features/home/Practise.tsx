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
  if (!page.drill) return <p>{t("There is no drill this time. See “Page” for your lesson.")}</p>;
  if (log.running) return <Counting home={home} log={log} change={change} />;
  const today = page.plan.find((p) => p.day === localDay(new Date()));
  const next = page.plan.find((p) => p.state === "to-come");
  return (
    <section aria-label={t("Before you start")} className="flex flex-col gap-3">
      {log.finished && <Done log={log} />}
      <p className="text-lg">
        {today?.state === "done" && t("Today is done.")}
        {today && today.state !== "done" && t("Today: {minutes} minutes.", { minutes: today.minutes })}
        {!today &&
          (next
            ? t("Today is a rest day. Next: {fullDay}.", { fullDay: fullDay(next.day) })
            : t("The plan is complete. Your next lesson shows what stayed."))}
      </p>
      <p className="text-2xl leading-tight font-bold">{quoted(page.cue)}</p>
      <div className="grid grid-cols-[9rem_1fr] items-start gap-3">
        {figure && <DrillDrawing picture={figure} title={page.drill_name} />}
        <div className="text-[0.9375rem]">
          <p>{(today ?? next)?.text}</p>
          {today?.eased && (
            <p className="text-soft">{t("After the missed day, it starts again at the first stage.")}</p>
          )}
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
      <p className="text-lg font-semibold">{t("Does anything hurt?")}</p>
      <div className="grid gap-2">
        <Button
          strong
          className="min-h-14 text-lg"
          onClick={() => change((l) => begin(l, crypto.randomUUID(), new Date()))}
        >
          {t("Nothing hurts, start")}
        </Button>
        <StopForPain
          home={home}
          label={t("Something hurts")}
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
      {t("Logged: {felt} of {all} felt", { felt: entry.felt, all })}
      {entry.balls.length > 0 && t(", {n} balls", { n: entry.balls.length })}.
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
    <section aria-label={t("Counting")} className="flex grow flex-col gap-3">
      <p className="text-xl leading-tight font-bold">{quoted(page.cue)}</p>
      {page.felt_by && <p>{page.felt_by}</p>}
      <p aria-live="polite" className="text-center">
        <span className="text-7xl leading-none font-bold">{count}</span>
        <span className="text-2xl text-soft"> {t("of {wanted}", { wanted })}</span>
        <span className="block text-soft">{t("{felt} felt", { felt: running.felt })}</span>
      </p>
      <div className="h-2 bg-rule" aria-hidden="true">
        <div className="h-2 bg-moss" style={{ width: `${Math.min(100, (100 * count) / wanted)}%` }} />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Count look="border-moss bg-moss-ground text-moss" onClick={() => change((l) => tap(l, true, new Date()))}>
          {t("Felt it")}
        </Count>
        <Count look="border-ink bg-sheet" onClick={() => change((l) => tap(l, false, new Date()))}>
          {t("Did not feel it")}
        </Count>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Button disabled={count === 0} onClick={() => change((l) => undo(l, new Date()))}>
          {t("Undo last")}
        </Button>
        <Button strong onClick={() => change((l) => finish(l, new Date()))}>
          {t("Done for today")}
        </Button>
      </div>
      <StopForPain
        home={home}
        label={t("It hurts, stop")}
        onStop={(region) => change((l) => finish(l, new Date(), region))}
      />
      <Balls home={home} count={running.balls.length} onBall={(ball) => change((l) => addBall(l, ball, new Date()))} />
    </section>
  );
}

/** Large enough for a thumb without looking. */
function Count({ look, onClick, children }: { look: string; onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`min-h-36 touch-manipulation rounded-sm border-2 text-2xl font-bold active:opacity-70 ${look}`}
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
    <div role="group" aria-label={t("Where does it hurt?")} className="border-2 border-plum p-3">
      <p className="mb-2 font-semibold text-plum">{t("Where does it hurt?")}</p>
      <div className="grid grid-cols-2 gap-2">
        {Object.entries(home.words.region).map(([id, region]) => (
          <Button key={id} onClick={() => onStop(id as PainRegion)}>
            {region}
          </Button>
        ))}
        <Button onClick={() => setAsking(false)}>{t("No pain, continue")}</Button>
      </div>
    </div>
  );
}

/** Balls hit at a range or into a net, in simple words. */
function Balls({ home, count, onBall }: { home: Home; count: number; onBall: (ball: BallSeen) => void }) {
  const [ball, setBall] = useState<BallSeen>({});
  const rows = [
    { name: "start", label: t("It started"), options: home.words.starts },
    { name: "curve", label: t("It curved"), options: home.words.curves },
    { name: "contact", label: t("It felt"), options: home.words.contacts },
  ] as const;
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        {t("Balls")}
        {count > 0 && `: ${count}`}
      </summary>
      <div className="flex flex-col gap-3">
        {rows.map(({ name, label, options }) => (
          <ChooseOne
            key={name}
            label={label}
            options={options.map((id) => ({
              id,
              label: name === "curve" && id === "straight" ? t("Not at all") : capital(id),
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
          {t("Save this ball")}
        </Button>
      </div>
    </details>
  );
}
