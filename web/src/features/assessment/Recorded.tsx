import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Schemas, upload } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { hyphens } from "../../shared/format/say";
import { Button } from "../../shared/ui/Button";
import { FilePicker } from "../../shared/ui/FilePicker";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "../lesson/LessonContext";
import { readingWords } from "./curves";
import { RecordingSheet } from "./RecordingSheet";

type Read = Schemas["RecordingRead"];

/** What belts and mats recorded: the grades they propose, and a way to look at each swing. */
export function Recorded({ graded }: { graded: Record<string, string> }) {
  const { lesson } = useDesk();
  const actions = useActions();
  const cache = useQueryClient();
  const told = useQuery(queries.recordings(lesson.id));
  const [opened, open] = useState<number | null>(null);
  const send = useMutation({
    mutationFn: (file: File) => upload<Read>(`/api/v1/lessons/${lesson.id}/recordings`, file),
    onSuccess: (recording) => {
      open(recording.id);
      return cache.invalidateQueries({ queryKey: ["lesson", lesson.id] });
    },
  });
  if (!told.data) return null;
  const { recordings, proposals } = told.data;
  const clear = proposals.filter((p) => !p.close && !(p.look in graded));
  return (
    <section aria-label={t("Recordings")}>
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-semibold">{t("Recordings")}</h3>
        <FilePicker
          label={t("Recording file")}
          accept=".csv,.c3d,text/csv"
          pending={send.isPending}
          onFile={(file) => send.mutate(file)}
        >
          {t("Bring in a recording")}
        </FilePicker>
      </div>
      {send.isError && <Notice error={send.error} />}
      {recordings.length === 0 ? (
        <p className="text-soft">
          {t("A motion belt or pressure mat in the bay sends its swings here; a CSV or C3D file does as well.")}
        </p>
      ) : (
        <>
          {clear.length > 0 && (
            <Button
              className="mt-2"
              onClick={() =>
                actions.grade.mutate({
                  ...Object.fromEntries(clear.map((p) => [p.look, p.grade])),
                  source: "recording",
                })
              }
            >
              {t("Take the {what}", {
                what: clear.length === 1 ? t("clear one") : t("{n} clear ones", { n: clear.length }),
              })}
            </Button>
          )}
          <Proposals
            proposals={proposals}
            graded={graded}
            onTake={(look, grade) => actions.grade.mutate({ [look]: grade, source: "recording" })}
          />
          <p className="mt-2 text-sm text-soft">
            {recordings.length === 1 ? t("One swing: ") : t("{n} swings: ", { n: recordings.length })}
            {recordings.slice(-8).map((r) => (
              <button
                key={r.id}
                type="button"
                onClick={() => open(r.id)}
                className="mr-2 min-h-8 underline underline-offset-4"
              >
                {r.ball ? t("ball {ball}", { ball: r.ball }) : r.name}
              </button>
            ))}
          </p>
        </>
      )}
      {opened !== null && <RecordingSheet id={opened} onClose={() => open(null)} />}
    </section>
  );
}

type ProposalsProps = {
  proposals: Schemas["Proposal"][];
  graded: Record<string, string>;
  onTake: (look: string, grade: string) => void;
};

/** Proposed grades: what was measured, how sure; the coach takes them or not. */
export function Proposals({ proposals, graded, onTake }: ProposalsProps) {
  const checks = useKnowledge().checks;
  return (
    <table className="mt-1 w-full text-left">
      <caption className="sr-only">{t("Grades the recordings propose")}</caption>
      <tbody>
        {proposals.map((p) => {
          const check = checks.find((c) => c.id === p.look);
          const [first] = p.readings;
          const same = graded[p.look] === p.grade;
          return (
            <tr key={p.look} className="border-b border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {check?.label ?? p.look}
                {first && (
                  <span className="block text-sm text-soft">
                    {first.label} {readingWords(first)}
                  </span>
                )}
              </th>
              <td className="pr-2">
                <span className={p.grade === check?.grades[0] ? "" : "font-semibold text-clay"}>
                  {hyphens(p.grade)}
                </span>
                <span className="block text-sm text-soft">
                  {p.close ? t("close to its bound") : t("clear")}
                  {p.swings > 1 && t(", {agree} of {swings}", { agree: p.agree, swings: p.swings })}
                </span>
              </td>
              <td className="text-right">
                <Button
                  disabled={same}
                  onClick={() => onTake(p.look, p.grade)}
                  aria-label={t("{act}: {grade} for {look}", {
                    act: same ? t("Taken") : t("Take"),
                    grade: hyphens(p.grade),
                    look: check?.label ?? p.look,
                  })}
                >
                  {same ? t("Taken") : t("Take")}
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
