import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { queries, type Shot, useKnowledge } from "../../api/queries";
import { FlightPaths } from "../../shared/charts/FlightPaths";
import { t } from "../../shared/format/language";
import { say } from "../../shared/format/say";
import { distance } from "../../shared/format/units";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Slider } from "../../shared/ui/Slider";
import { TableHead } from "../../shared/ui/TableHead";
import { useDesk } from "../lesson/LessonContext";

const HANDLES = [
  { id: "path_deg", reach: 12, step: 0.5 },
  { id: "face_deg", reach: 12, step: 0.5 },
  { id: "attack_deg", reach: 8, step: 0.5 },
  { id: "strike_toe_mm", reach: 30, step: 1 },
  { id: "strike_high_mm", reach: 18, step: 1 },
];

/** What if the club came in differently: drag, see the flight change, and read why. */
export function WhatIf({ shot }: { shot: Shot | undefined }) {
  const { lesson, units, hand } = useDesk();
  const metrics = useKnowledge().metrics;
  const [changes, change] = useState<Record<string, number>>({});
  const asked = useDeferredValue(changes);
  const result = useQuery({ ...queries.whatIf(lesson.id, shot?.id ?? null, asked), placeholderData: keepPreviousData });
  if (result.isError) return <Notice error={result.error} />;
  if (!result.data) return null;
  const { before, after, reason } = result.data;
  return (
    <div className="flex flex-col gap-4">
      <p role="status" className="min-h-14 text-lg">
        {Object.keys(changes).length
          ? reason
          : t("baseline-starts-drag-value-see-what", {
              start: shot ? t("common-ball-6", { number: shot.number }) : t("baseline-baseline-median"),
            })}
      </p>
      <div className="grid gap-6 md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
        <div className="flex flex-col gap-2">
          {HANDLES.map(({ id, reach, step }) => {
            const metric = metrics.find((m) => m.id === id);
            const value = changes[id] ?? before.delivery[id] ?? 0;
            if (!metric) return null;
            return (
              <div key={id}>
                <div className="flex justify-between" aria-hidden="true">
                  <span>{metric.label}</span>
                  <span className={id in changes ? "font-semibold text-clay" : "text-soft"}>
                    {say(metric, value, units)}
                  </span>
                </div>
                <Slider
                  className="h-8"
                  min={-reach}
                  max={reach}
                  step={step}
                  thumbs={[{ name: metric.label, value, text: say(metric, value, units) }]}
                  onChange={([to]) => to !== undefined && change({ ...changes, [id]: to })}
                />
              </div>
            );
          })}
          <Button disabled={Object.keys(changes).length === 0} onClick={() => change({})}>
            {t("baseline-reset")}
          </Button>
        </div>
        <div className="flex flex-col gap-3">
          <FlightPaths before={before} after={after} hand={hand} />
          <table className="w-full text-left">
            <TableHead titles={[t("baseline-modelled"), t("baseline-measured"), t("baseline-change")]} />
            <tbody>
              {(["carry_m", "side_m", "curve_m", "apex_m"] as const).map((id) => (
                <tr key={id} className="border-b border-rule">
                  <th scope="row" className="py-0.5 font-normal">
                    {t(LABELS[id])}
                  </th>
                  <td className="text-soft italic">{metres(id, before[id], units)}</td>
                  <td className="italic">{metres(id, after[id], units)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
    </div>
  );
}

const LABELS = {
  carry_m: "common-carry",
  side_m: "baseline-offline",
  curve_m: "baseline-curve",
  apex_m: "baseline-height",
};

function metres(id: keyof typeof LABELS, value: number, units: Parameters<typeof distance>[1]): string {
  const sideways = id === "side_m" || id === "curve_m";
  const text = distance(Math.abs(value), units);
  if (!sideways || Number.parseFloat(text) === 0) return text;
  return t("baseline-side", { distance: text, side: value > 0 ? t("baseline-trail") : t("baseline-lead") });
}
