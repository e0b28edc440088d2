import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { Columns } from "./Columns";
import type { Mapping } from "./mapping";

type Shown = Schemas["SourceShownOut"];

/** Set the columns of a bay's source once; from then on its rows become balls. */
export function SourceSheet({ id, onClose }: { id: number; onClose: () => void }) {
  const source = useQuery(queries.source(id));
  return (
    <Sheet
      title={source.data ? t("common-columns-2", { name: source.data.name }) : t("common-columns")}
      result={t("import-check-what-each-column-means")}
      open
      wide
      onClose={onClose}
    >
      {source.isError && <Notice error={source.error} />}
      {source.data && <Said shown={source.data} onClose={onClose} />}
    </Sheet>
  );
}

function Said({ shown, onClose }: { shown: Shown; onClose: () => void }) {
  const cache = useQueryClient();
  const params = { path: { source_id: shown.id } };
  const [mapping, setMapping] = useState<Mapping>(shown.mapping);
  const refresh = useMutation({
    mutationFn: (body: Mapping) => ask(client.POST("/api/v1/sources/{source_id}/preview", { params, body })),
  });
  const done = () => {
    void cache.invalidateQueries({ queryKey: ["bays"] });
    void cache.invalidateQueries({ queryKey: ["lesson"] });
    onClose();
  };
  const confirm = useMutation({
    mutationFn: () => ask(client.PUT("/api/v1/sources/{source_id}/mapping", { params, body: mapping })),
    onSuccess: done,
  });
  const leave = useMutation({
    mutationFn: () => ask(client.PUT("/api/v1/sources/{source_id}/left", { params, body: { left: true } })),
    onSuccess: done,
  });
  const preview = refresh.data ?? shown.preview;
  const busy = confirm.isPending || leave.isPending || refresh.isPending;
  return (
    <div className="flex flex-col gap-4">
      <Columns
        result={shown}
        remembered={shown.remembered ? t("import-columns-like-these-set-before") : null}
        mapping={mapping}
        preview={preview}
        hand={shown.hand}
        error={refresh.error}
        onChange={(next) => {
          setMapping(next);
          refresh.mutate(next);
        }}
      />
      {confirm.isError && <Notice error={confirm.error} />}
      {leave.isError && <Notice error={leave.error} />}
      <div className="sticky -bottom-6 -mx-6 flex flex-wrap items-center gap-3 border-rule border-t bg-sheet px-6 py-3">
        <Button strong disabled={busy || refresh.isError || preview.count === 0} onClick={() => confirm.mutate()}>
          {shown.waiting > 0 ? t("import-confirm-add-rows", { n: shown.waiting }) : t("common-confirm")}
        </Button>
        <Button disabled={busy} onClick={() => leave.mutate()}>
          {t("import-these-rows-not-balls")}
        </Button>
        <Button onClick={onClose}>{t("import-not-now")}</Button>
      </div>
    </div>
  );
}
