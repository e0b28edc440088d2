import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Schemas, upload } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button, KeyCap, LinkButton } from "../../shared/ui/Button";
import { Cameras } from "../../shared/ui/Cameras";
import { FilePicker } from "../../shared/ui/FilePicker";
import { Notice } from "../../shared/ui/Notice";
import { FilmingConsent } from "../lesson/Consent";
import { useDesk } from "../lesson/LessonContext";
import { Proposed } from "./Proposals";
import { RecordingSheet } from "./RecordingSheet";

type Clip = Schemas["ClipOut"];
type Row = Schemas["RecordingRow"];

const SHOWN = 8;

/** Films: imported, measured one after the other, then proposing answers like a recorder. */
export function Filmed({ graded }: { graded: Record<string, string> }) {
  const { lesson } = useDesk();
  const cache = useQueryClient();
  const clips = useQuery(queries.clips(lesson.id));
  const result = useQuery(queries.recordings(lesson.id));
  const films = useQuery(queries.films(lesson));
  const bay = useQuery(queries.bays).data?.find((b) => b.lesson_id === lesson.id);
  const [opened, open] = useState<number | null>(null);
  const again = () => cache.invalidateQueries({ queryKey: queries.clips(lesson.id).queryKey });
  const send = useMutation({
    scope: { id: "films" }, // one after the other: each is some megabytes
    mutationFn: (file: File) => upload<Clip>(`/api/v1/lessons/${lesson.id}/clips`, file),
    onSettled: again,
  });
  if (!clips.data || !result.data) return null;
  const agreed = Boolean(lesson.student.filming_agreed_at);
  const watchable = new Set(films.data?.map((film) => film.id));
  const filmed = result.data.recordings.filter((r) => r.view);
  return (
    <section aria-label={t("check-films")} className="mt-4">
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-semibold">{t("check-films")}</h3>
        {agreed && (
          <FilePicker
            label={t("check-film-swing")}
            accept="video/mp4,video/webm,video/quicktime"
            many
            onFile={(file) => send.mutate(file)}
          >
            {t("check-import-films")}
          </FilePicker>
        )}
      </div>
      {!agreed && !lesson.training && <FilmingConsent />}
      {bay && <Cameras bay={bay.id} name={bay.name} />}
      {send.isError && <Notice error={send.error} />}
      <ul aria-label={t("check-films-measured")} className="empty:hidden">
        {clips.data.map((clip) => (
          <Waiting key={clip.id} clip={clip} onGone={again} />
        ))}
      </ul>
      {filmed.length > 0 ? (
        <>
          <Proposed proposals={result.data.seen} graded={graded} source="camera" />
          <ul aria-label={t("check-measured-films")}>
            {filmed.slice(-SHOWN).map((film) => (
              <li key={film.id} className="flex min-h-11 items-center gap-2 border-b border-rule">
                <span className="min-w-0 grow truncate">{nameOf(film)}</span>
                {watchable.has(film.id) && (
                  <LinkButton
                    to={`/lessons/${lesson.id}/films?now=${film.id}`}
                    aria-label={t("check-watch-film-2", { swing: nameOf(film) })}
                  >
                    {t("check-watch")}
                  </LinkButton>
                )}
                <Button onClick={() => open(film.id)} aria-label={t("check-curves", { swing: nameOf(film) })}>
                  {t("common-curves")}
                </Button>
              </li>
            ))}
          </ul>
          {watchable.size > 0 && (
            <LinkButton className="mt-2" to={`/lessons/${lesson.id}/films`}>
              {watchable.size > 1 ? t("check-compare-films") : t("check-watch-film")} <KeyCap>{KEYS.films}</KeyCap>
            </LinkButton>
          )}
        </>
      ) : (
        clips.data.length === 0 && <p className="text-soft">{t("check-one-swing-per-film-front")}</p>
      )}
      {opened !== null && <RecordingSheet id={opened} onClose={() => open(null)} />}
    </section>
  );
}

const nameOf = (film: Row) => (film.ball ? t("common-ball-5", { ball: film.ball }) : film.name);

function howFar({ state, frames }: Clip): string {
  return state === "running" ? t("check-frames-measured", { n: frames }) : t("check-queued");
}

function whyNot({ message, value, expected }: Schemas["Problem"]): string {
  if (!value || !expected) return message;
  return t("check-not-measured-expected", { value: value.replace(/^'|'$/g, ""), expected });
}

/** A film that is not measured yet: its progress, or the reason it failed. */
function Waiting({ clip, onGone }: { clip: Clip; onGone: () => void }) {
  const drop = useMutation({
    mutationFn: () => ask(client.DELETE("/api/v1/clips/{clip_id}", { params: { path: { clip_id: clip.id } } })),
    onSettled: onGone,
  });
  return (
    <li className="flex items-center justify-between gap-3 border-b border-rule py-1">
      <span className="min-w-0">
        <span className="block truncate">{clip.name}</span>
        <span role="status" className={`block text-sm ${clip.problem ? "text-plum" : "text-soft"}`}>
          {clip.problem ? whyNot(clip.problem) : howFar(clip)}
        </span>
      </span>
      <Button
        className="shrink-0"
        disabled={drop.isPending}
        onClick={() => drop.mutate()}
        aria-label={t("check-dismiss", { name: clip.name })}
      >
        {t("common-dismiss")}
      </Button>
    </li>
  );
}
