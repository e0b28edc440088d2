import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Schemas, upload } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { FilePicker } from "../../shared/ui/FilePicker";
import { Notice } from "../../shared/ui/Notice";
import { useDesk } from "../lesson/LessonContext";
import { Proposed } from "./Proposals";
import { RecordingSheet } from "./RecordingSheet";

type Read = Schemas["RecordingRead"];
type Row = Schemas["RecordingRow"];

/** Recordings of belts and mats: proposed answers, and each swing to view. */
export function Recorded({ graded }: { graded: Record<string, string> }) {
  const { lesson } = useDesk();
  const cache = useQueryClient();
  const result = useQuery(queries.recordings(lesson.id));
  const [opened, open] = useState<number | null>(null);
  const send = useMutation({
    mutationFn: (file: File) => upload<Read>(`/api/v1/lessons/${lesson.id}/recordings`, file),
    onSuccess: (recording) => {
      open(recording.id);
      return cache.invalidateQueries({ queryKey: ["lesson", lesson.id] });
    },
  });
  if (!result.data) return null;
  const recordings = result.data.recordings.filter((r) => !r.view);
  return (
    <section aria-label={t("check-recordings")}>
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-semibold">{t("check-recordings")}</h3>
        <FilePicker
          label={t("check-recording-file")}
          accept=".csv,.c3d,text/csv"
          pending={send.isPending}
          onFile={(file) => send.mutate(file)}
        >
          {t("check-import-recording")}
        </FilePicker>
      </div>
      {send.isError && <Notice error={send.error} />}
      {recordings.length === 0 ? (
        <p className="text-soft">{t("check-motion-belt-pressure-mat-bay")}</p>
      ) : (
        <>
          <Proposed proposals={result.data.proposals} graded={graded} source="recording" />
          <Swings recordings={recordings} onOpen={open} />
        </>
      )}
      {opened !== null && <RecordingSheet id={opened} onClose={() => open(null)} />}
    </section>
  );
}

/** The newest swings; each opens its curves. */
export function Swings({ recordings, onOpen }: { recordings: Row[]; onOpen: (id: number) => void }) {
  return (
    <p className="mt-2 text-sm text-soft">
      {recordings.length === 1 ? t("check-one-swing") : t("check-swings", { n: recordings.length })}
      {recordings.slice(-8).map((r) => (
        <button
          key={r.id}
          type="button"
          onClick={() => onOpen(r.id)}
          className="mr-2 min-h-8 underline underline-offset-4"
        >
          {r.ball ? t("common-ball-5", { ball: r.ball }) : r.name}
        </button>
      ))}
    </p>
  );
}
