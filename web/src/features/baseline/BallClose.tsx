import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { queries, type Shot, useKnowledge } from "../../api/queries";
import { fixed, t } from "../../shared/format/language";
import { say, signed } from "../../shared/format/say";
import { speed } from "../../shared/format/units";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "../lesson/LessonContext";

const START: Record<string, string> = {
  face_deg: "baseline-face-3",
  path_deg: "baseline-path-2",
  strike_deg: "baseline-strike-2",
  rest_deg: "baseline-rest",
};
const CURVE: Record<string, string> = {
  face_to_path_deg: "baseline-face-to-path",
  strike_deg: "baseline-strike-2",
  rest_deg: "baseline-rest",
};
const LOST: Record<string, string> = {
  off_centre_mps: "baseline-off-center-strike-2",
  glancing_mps: "baseline-glancing-blow-2",
  added_loft_mps: "baseline-added-loft-2",
  club_speed_mps: "baseline-club-speed-2",
  rest_mps: "baseline-rest",
};

/** One ball in detail: causes of start, curve and speed, and every value with its origin. */
export function BallClose({ shot }: { shot: Shot }) {
  const { lesson, units } = useDesk();
  const close = useQuery(queries.ball(lesson.id, shot.id));
  const metrics = useKnowledge().metrics;
  if (close.isError) return <Notice error={close.error} />;
  if (!close.data) return null;
  const { shares, sentences, values } = close.data;
  return (
    <div className="flex flex-col gap-4">
      <ul className="flex flex-col gap-1 text-lg">
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {!shares && <li className="text-soft">{t("baseline-path-face-speed-ball-not")}</li>}
      </ul>
      {shares && <MadeOf shares={shares} />}
      <details>
        <summary className="min-h-8 cursor-pointer">{t("baseline-all-values-ball")}</summary>
        <ul className="mt-1 grid gap-0.5">
          {values.map((v) => {
            const metric = metrics.find((m) => m.id === v.metric);
            return metric ? (
              <li key={v.metric} className="flex justify-between gap-3 border-b border-rule">
                <span>{metric.label}</span>
                <Value value={v} text={say(metric, v.value, units)} />
              </li>
            ) : null;
          })}
        </ul>
      </details>
    </div>
  );
}

/** Causes of start, curve and lost speed, of one ball or the block's medians. */
export function MadeOf({ shares }: { shares: Schemas["BlockShares"] }) {
  const { units } = useDesk();
  return (
    <div className="flex flex-col gap-4">
      <Budget
        title={t("baseline-start-direction-2")}
        tone="fill-moss"
        shares={shares.start}
        names={START}
        say={(v) => `${signed(v)}°`}
      />
      <Budget
        title={t("baseline-spin-axis-tilt")}
        tone="fill-slate"
        shares={shares.curve}
        names={CURVE}
        say={(v) => `${signed(v)}°`}
      />
      <Budget
        title={t("baseline-ball-speed-lost")}
        tone="fill-clay"
        shares={shares.compression}
        names={LOST}
        say={(v) => speed(v, units)}
      />
    </div>
  );
}

function Value({ value, text }: { value: Schemas["BallValue"]; text: string }) {
  if (value.doubtful) return <span className="text-plum">{t("baseline-doubtful", { value: text })}</span>;
  if (value.origin === "inferred") {
    return (
      <em className="text-soft">
        {t("baseline-about-inferred", { value: text, error: value.sd ? ` ± ${fixed(2 * value.sd, 1)}` : "" })}
      </em>
    );
  }
  return <b>{text}</b>;
}

type BudgetProps = {
  title: string;
  tone: string;
  shares: Record<string, number>;
  names: Record<string, string>;
  say: (value: number) => string;
};

/** Signed shares as bars around zero, each with name and number. */
function Budget({ title, tone, shares, names, say }: BudgetProps) {
  const rows = Object.entries(names).map(([id, name]) => ({ name, value: shares[id] ?? 0 }));
  const reach = Math.max(...rows.map((r) => Math.abs(r.value)), 0.5);
  return (
    <section aria-label={title}>
      <h3 className="mb-1 text-sm font-semibold">{title}</h3>
      <ul className="grid gap-0.5">
        {rows.map(({ name, value }) => (
          <li key={name} className="grid grid-cols-[8rem_1fr_4.5rem] items-center gap-2 text-sm">
            <span className="text-soft">{t(name)}</span>
            <svg viewBox="-50 0 100 10" preserveAspectRatio="none" className="h-2.5 w-full" aria-hidden="true">
              <path d="M0 0V10" className="stroke-soft" vectorEffect="non-scaling-stroke" />
              <rect
                x={value < 0 ? (value / reach) * 48 : 0}
                y="1"
                width={(Math.abs(value) / reach) * 48}
                height="8"
                className={tone}
              />
            </svg>
            <span className="text-right font-medium">{say(value)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
