import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { type Schemas, upload } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { capital } from "../../shared/format/say";
import { Button, FileButton } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { FilePicker } from "../../shared/ui/FilePicker";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { FileSheet } from "../files/FileSheet";
import { Conditions } from "../lesson/Conditions";
import { useActions, useBalls, useChosen, useDesk } from "../lesson/LessonContext";
import { BallClose, MadeOf } from "./BallClose";
import { BaselineCharts } from "./BaselineCharts";
import { ByHand } from "./ByHand";
import { ColdTest } from "./ColdTest";
import { Earlier } from "./Earlier";
import { ReadingTable } from "./ReadingTable";
import { SetupNotes } from "./SetupNotes";
import { UnassignedBalls } from "./UnassignedBalls";
import { WarmUpChecks } from "./WarmUpChecks";
import { WhatIf } from "./WhatIf";

const WARM_UP_BALLS = 8;
const VIEWS = [
  { id: "pictures", label: "baseline-pictures" },
  { id: "what-if", label: "baseline-what-if" },
  { id: "table", label: "common-table-2" },
];

/** Layout with words beside pictures when space is tight. */
const BESIDE_PICTURES = "lg:@max-[70rem]:grid-cols-[15rem_minmax(0,1fr)] lg:@max-[70rem]:gap-5";

/** Baseline: the pattern in words first, then its pictures. */
export function BaselineStation() {
  const { lesson } = useDesk();
  const { shots } = useBalls();
  const { selection } = useChosen();
  const actions = useActions();
  const [view, check] = useState("pictures");
  const covered = new Set(shots.filter((s) => s.covered).map((s) => s.id));
  const open = [...selection.ids].filter((id) => !covered.has(id));
  const balls = open.sort((a, b) => a - b).join(",");
  const reading = useQuery(queries.reading(lesson.id, balls));
  const [byHand, setByHand] = useState(false);
  const knowledge = useKnowledge();
  const baselineOpen = lesson.open_block?.purpose === "baseline";
  if (reading.isError) return <Notice error={reading.error} />;
  if (!reading.data) return null;
  const read = reading.data.reading;
  const numberOf = (place: number) => shots.find((s) => s.id === reading.data.ball_ids[place])?.number;
  const only = selection.ids.size === 1 ? shots.find((s) => selection.ids.has(s.id)) : undefined;
  return (
    <div
      className={`mx-auto grid max-w-6xl gap-8 lg:grid-cols-[minmax(0,4fr)_minmax(0,7fr)] ${read.balls > 0 ? BESIDE_PICTURES : ""}`}
    >
      {!only && <ColdTest />}
      <section aria-labelledby="pattern" className="flex flex-col gap-4">
        <div className="flex flex-wrap items-baseline justify-between gap-2">
          <h2 id="pattern" className="text-2xl font-bold">
            {only
              ? t("common-ball-2", { number: only.number })
              : selection.ids.size
                ? t("common-selected-balls")
                : t("baseline-pattern")}
          </h2>
          {!only && <Enough />}
        </div>
        <Clubs clubs={reading.data.clubs} />
        {only?.covered ? (
          <p className="text-soft">{t("common-ball-hidden-until-mark", { number: only.number })}</p>
        ) : only ? (
          <BallClose shot={only} />
        ) : read.balls === 0 ? (
          <FirstBalls />
        ) : (
          <dl className="flex flex-col gap-2.5">
            {read.pattern.map((word) => (
              <div key={word.aspect}>
                <dt className="inline text-xl font-semibold">{capital(word.word)}</dt>
                <dd className="text-soft">{word.text}</dd>
              </div>
            ))}
          </dl>
        )}
        {!only &&
          read.drifts.map((drift) => (
            <Callout tone="straw" key={drift.metric}>
              {drift.text}
            </Callout>
          ))}
        {!only &&
          read.balls > 0 &&
          read.notes.map((note) => (
            <Callout tone="straw" key={note}>
              {note}
            </Callout>
          ))}
        {!only && read.shares && (
          <details>
            <summary className="min-h-8 cursor-pointer">
              {t("baseline-what-made-median-balls", { balls: read.shares.balls })}
            </summary>
            <div className="mt-2">
              <MadeOf shares={read.shares} />
            </div>
          </details>
        )}
        {!only && read.mishits.length > 0 && (
          <details>
            <summary className="min-h-8 cursor-pointer">
              {t("baseline-balls-excluded-automatically", { n: read.mishits.length })}
            </summary>
            <ul className="text-soft">
              {read.mishits.map((m) => (
                <li key={m.index}>{t("baseline-ball", { numberOf: numberOf(m.index), reason: m.reason })}</li>
              ))}
            </ul>
          </details>
        )}
        {!only && read.doubtful.length > 0 && (
          <Callout as="ul" tone="plum">
            {read.doubtful.map((d) => (
              <li key={d.index}>
                {t("baseline-ball-does-not-agree-other", {
                  numberOf: numberOf(d.index),
                  label: knowledge.metrics.find((m) => m.id === d.field)?.label,
                })}
              </li>
            ))}
          </Callout>
        )}
        {!only && (
          <>
            <UnassignedBalls />
            {read.balls < WARM_UP_BALLS && <WarmUpChecks />}
            <SetupNotes />
            <Conditions />
            <Earlier />
          </>
        )}
        {byHand && <ByHand onClose={() => setByHand(false)} />}
        <div className="mt-2 flex flex-wrap gap-2">
          {!byHand && <Button onClick={() => setByHand(true)}>{t("baseline-balls-hand")}</Button>}
          {!baselineOpen && (
            <Button onClick={() => actions.openBlock.mutate({ purpose: "baseline", stage: "" })}>
              {t("baseline-more-baseline-balls")}
            </Button>
          )}
          <ImportButton />
          <FileButton href={`/api/v1/lessons/${lesson.id}/export.csv`} download>
            {t("baseline-save-csv")}
          </FileButton>
        </div>
      </section>
      {read.balls > 0 && (
        <section aria-label={t("baseline-pattern-detail")} className="flex flex-col gap-4">
          <Tabs label={t("baseline-views-pattern")} tabs={VIEWS} value={view} onChange={check} />
          {view === "pictures" && <BaselineCharts />}
          {view === "what-if" && <WhatIf key={only?.id ?? 0} shot={only?.covered ? undefined : only} />}
          {view === "table" && <ReadingTable reading={read} />}
        </section>
      )}
    </div>
  );
}

/** The clubs of the baseline; touching one shows its balls. */
function Clubs({ clubs }: { clubs: Record<string, number> }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const knowledge = useKnowledge();
  const rows = Object.entries(clubs);
  if (rows.length < 2) return null;
  return (
    <div role="group" aria-label={t("baseline-club-shown")} className="flex flex-wrap gap-2">
      {rows.map(([club, count]) => (
        <Button key={club} aria-pressed={club === lesson.club} onClick={() => actions.move.mutate({ club })}>
          {knowledge.clubs.find((c) => c.id === club)?.label ?? club}, {count}
        </Button>
      ))}
    </div>
  );
}

/** How many more balls the pattern needs. */
function Enough() {
  const { lesson } = useDesk();
  const complete = useQuery(queries.reading(lesson.id, "")).data?.reading;
  if (!complete || complete.balls === 0) return null;
  const needed = complete.balls_needed;
  if (needed === null) return <p className="text-soft">{t("baseline-path-face-strike-not-measured")}</p>;
  return (
    <p className={needed === 0 ? "font-semibold text-moss" : "text-soft"}>
      {needed === 0 ? t("baseline-enough-balls") : t("baseline-hit-about-more-reliable-pattern", { needed })}
    </p>
  );
}

function FirstBalls() {
  const { lesson } = useDesk();
  return (
    <div className="max-w-prose text-lg text-soft">
      <p>{t("baseline-let-student-hit-8-15")}</p>
      <p className="mt-2">
        {lesson.training
          ? t("baseline-golfer-made-up-hits-request")
          : lesson.bay_id === null
            ? t("baseline-choose-bay-whose-monitor-use")
            : t("baseline-listening-bay-balls-appear-automatically")}
      </p>
    </div>
  );
}

function ImportButton() {
  const { lesson, hand } = useDesk();
  const cache = useQueryClient();
  const [draft, setDraft] = useState<Schemas["DraftOut"] | null>(null);
  const mapping = useSearchParams()[0].has("mapping"); // somebody doubts a sign
  const send = useMutation({
    mutationFn: async (file: File) => {
      // Our own JSON needs no look at its columns.
      if (/\.(nd)?json$/i.test(file.name)) {
        const result = await upload<Schemas["Imported"]>(`/api/v1/lessons/${lesson.id}/import`, file);
        await cache.invalidateQueries({ queryKey: ["lesson", lesson.id] });
        return result;
      }
      setDraft(await upload<Schemas["DraftOut"]>(`/api/v1/lessons/${lesson.id}/drafts`, file));
      return null;
    },
  });
  return (
    <>
      <FilePicker
        label={t("baseline-shot-file-import")}
        accept=".csv,.txt,.tsv,.json,.ndjson,text/csv,application/json"
        pending={send.isPending}
        onFile={(file) => send.mutate(file)}
        expected={mapping}
      >
        {send.isPending ? t("baseline-reading") : t("baseline-import-file")}
      </FilePicker>
      {mapping && (
        <p role="status" className="basis-full">
          {t("baseline-choose-file-again-will-see")}
        </p>
      )}
      {send.data && (
        <p role="status" className="basis-full text-soft">
          {t("baseline-balls-imported", {
            stored: send.data.stored,
            known_already: send.data.known ? t("common-already-here", { known: send.data.known }) : "",
          })}
        </p>
      )}
      {send.isError && (
        <div className="basis-full">
          <Notice error={send.error} />
        </div>
      )}
      {draft && (
        <FileSheet key={draft.id} draft={draft} lessonId={lesson.id} hand={hand} onClose={() => setDraft(null)} />
      )}
    </>
  );
}
