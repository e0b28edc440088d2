import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { Columns } from "./Columns";
import type { Mapping } from "./mapping";

type Draft = Schemas["DraftOut"];

/** A table from elsewhere: meaning of columns, preview, import. */
type Props = { draft: Draft; lessonId: number; hand: string; onClose: () => void };

export function FileSheet({ draft, lessonId, hand, onClose }: Props) {
  const cache = useQueryClient();
  const params = { path: { draft_id: draft.id } };
  const [mapping, setMapping] = useState<Mapping>(draft.mapping);
  const [leaveOut, setLeaveOut] = useState(false);
  const [begun, setBegun] = useState(false);
  const refresh = useMutation({
    mutationFn: (body: Mapping) => ask(client.POST("/api/v1/drafts/{draft_id}/preview", { params, body })),
  });
  const store = useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/drafts/{draft_id}/store", { params, body: { mapping, leave_out_bad: leaveOut } })),
    onSuccess: () => setBegun(true),
  });
  const drop = useMutation({ mutationFn: () => ask(client.DELETE("/api/v1/drafts/{draft_id}", { params })) });
  const preview = refresh.data ?? draft.preview;

  function change(next: Mapping) {
    setMapping(next);
    refresh.mutate(next);
  }
  function leave() {
    drop.mutate();
    onClose();
  }
  if (begun) {
    return (
      <Sheet title={t("import-importing", { name: draft.name })} open onClose={onClose}>
        <Importing
          draftId={draft.id}
          onCancel={() => drop.mutate()}
          onBack={() => setBegun(false)}
          onDone={() => {
            void cache.invalidateQueries({ queryKey: ["lesson", lessonId] });
            drop.mutate();
            onClose();
          }}
        />
      </Sheet>
    );
  }
  const wrong = preview.problem_count > 0;
  return (
    <Sheet
      title={t("import-import", { name: draft.name })}
      result="Look over what each column is. Nothing is stored before you say so."
      open
      wide
      onClose={leave}
    >
      <div className="flex flex-col gap-4">
        <Columns
          result={draft}
          remembered={draft.remembered ? t("import-file-like-imported-before-columns") : null}
          mapping={mapping}
          preview={preview}
          hand={hand}
          error={refresh.error}
          onChange={change}
        />
        {store.isError && <Notice error={store.error} />}
        <div className="sticky -bottom-6 -mx-6 flex flex-wrap items-center gap-3 border-rule border-t bg-sheet px-6 py-3">
          <Button
            strong
            disabled={
              preview.count === 0 || refresh.isPending || store.isPending || refresh.isError || (wrong && !leaveOut)
            }
            onClick={() => store.mutate()}
          >
            {t("import-store-balls", { n: preview.complete ? preview.count : t("common-all") })}
          </Button>
          <Button onClick={leave}>{t("common-discard")}</Button>
          {wrong && (
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="h-5 w-5 accent-clay"
                checked={leaveOut}
                onChange={(event) => setLeaveOut(event.target.checked)}
              />
              {t("import-skip-rows-cant-read", { problem_count: preview.problem_count })}
            </label>
          )}
        </div>
      </div>
    </Sheet>
  );
}

const ENDED = new Set(["done", "failed", "cancelled"]);

/** Progress of an import; it can be canceled, and then nothing is stored. */
function Importing({
  draftId,
  onCancel,
  onBack,
  onDone,
}: {
  draftId: number;
  onCancel: () => void;
  onBack: () => void;
  onDone: () => void;
}) {
  const mapping = useQuery({
    ...queries.draftMapping(draftId),
    refetchInterval: (query) => (ENDED.has(query.state.data?.state ?? "") ? false : 250),
    staleTime: 0,
  });
  if (mapping.isError) return <Notice error={mapping.error} />;
  const result = mapping.data;
  if (!result) return null;
  const share = result.total ? Math.min(1, result.done / result.total) : 0;
  return (
    <div className="flex flex-col gap-4">
      {result.state === "reading" && (
        <>
          <progress className="h-3 w-full accent-clay" value={share} max={1} aria-label={t("import-progress-file")} />
          <p role="status">{t("import-balls-so-far", { stored: result.stored })}</p>
          <Button onClick={onCancel}>{t("common-cancel")}</Button>
        </>
      )}
      {result.state === "done" && (
        <>
          <p role="status" className="text-lg">
            {t("import-balls-imported", {
              stored: result.stored,
              known_already: result.known ? t("common-already-here", { known: result.known }) : "",
              left_out: result.left_out ? t("import-rows-left-out", { left_out: result.left_out }) : "",
            })}
          </p>
          <Button strong onClick={onDone}>
            {t("import-show-pattern")}
          </Button>
        </>
      )}
      {result.state === "cancelled" && (
        <>
          <p role="status">{t("import-canceled-nothing-imported")}</p>
          <Button onClick={onDone}>{t("common-close")}</Button>
        </>
      )}
      {result.state === "failed" && (
        <>
          <Callout as="div" tone="plum" role="alert">
            <p>{t("common-nothing-imported")}</p>
            {result.problems.map((p) => (
              <p key={`${p.line} ${p.message}`}>
                {p.line ? t("common-line", { line: p.line }) : ""}
                {p.message}
              </p>
            ))}
          </Callout>
          <Button onClick={onBack}>{t("import-back-columns")}</Button>
        </>
      )}
    </div>
  );
}
