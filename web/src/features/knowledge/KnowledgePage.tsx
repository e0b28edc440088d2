import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { ask, client } from "../../api/client";
import { queries, useKnowledge } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { type Changes, countOf, same } from "./changes";
import { Entries } from "./Entries";
import { EntryForm } from "./EntryForm";
import { Preview } from "./Preview";
import { keyOf, shippedRows, TABLES, type Table } from "./tables";
import { Versions } from "./Versions";

/** The knowledge and the head coach's changes: tried on stored lessons, then saved as a version. */
export function KnowledgePage() {
  const result = useQuery(queries.versions);
  // An address may name the part and the entry; without one the first entry of the part is open.
  const [params, setParams] = useSearchParams();
  const table = [...TABLES.map((one) => one.id), "versions"].find((id) => id === params.get("part")) ?? "fault";
  if (result.isError) return <Notice error={result.error} />;
  if (!result.data) return null;
  return (
    <Editor
      key={result.data.versions[0]?.number ?? 0}
      base={(result.data.versions[0]?.changes ?? {}) as Changes}
      table={table as Table}
      entry={params.get("entry")}
      onOpen={(part, entry) => setParams({ part, ...(entry && { entry }) }, { replace: true })}
    />
  );
}

type EditorProps = {
  base: Changes;
  table: Table;
  entry: string | null;
  onOpen: (table: Table, entry?: string) => void;
};

function Editor({ base, table, entry, onOpen }: EditorProps) {
  const cache = useQueryClient();
  const knowledge = useKnowledge();
  const versions = useQuery(queries.versions).data;
  const [changes, setChanges] = useState<Changes>(base);
  const [note, setNote] = useState("");
  const save = useMutation({
    mutationFn: (body: Changes) => ask(client.POST("/api/v1/knowledge/versions", { body: { changes: body, note } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["knowledge"] }),
  });
  const preview = useMutation({
    mutationFn: (body: Changes) => ask(client.POST("/api/v1/knowledge/preview", { body: { changes: body, note: "" } })),
  });
  if (!versions) return null;
  const dirty = !same(changes, base);
  const rows = shippedRows(table, versions);
  const known = [...rows.map(keyOf), ...Object.keys(changes[table] ?? {})];
  const opened = known.find((key) => key === entry) ?? known[0];

  function change(next: Changes) {
    setChanges(next);
    save.reset();
    preview.mutate(next);
  }
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-6">
      <h1 className="text-2xl font-bold">{t("common-knowledge")}</h1>
      <p className="mb-3 max-w-prose text-soft">
        {t("knowledge-what-ranking-based-effects-ship", {
          who_may: versions.may_edit
            ? t("knowledge-change-them-own-balls-teach")
            : t("knowledge-head-coach-can-change-them"),
        })}
      </p>
      <Tabs
        label={t("knowledge-section")}
        tabs={[...TABLES, { id: "versions", label: t("knowledge-versions") }]}
        value={table}
        onChange={(to) => onOpen(to as Table)}
      />
      {table === "versions" ? (
        <Versions versions={versions.versions} mayEdit={versions.may_edit} onTake={(taken) => change(taken)} />
      ) : (
        <div className="mt-4 grid gap-6 lg:grid-cols-[minmax(0,4fr)_minmax(0,7fr)]">
          <Entries
            table={table}
            shipped={versions}
            changes={changes}
            opened={opened}
            mayEdit={versions.may_edit}
            onOpen={(key) => onOpen(table, key)}
            onChange={change}
          />
          {opened && (
            <EntryForm
              key={`${table}/${opened}`}
              table={table}
              id={opened}
              shipped={versions}
              knowledge={knowledge}
              changes={changes}
              mayEdit={versions.may_edit}
              onChange={change}
            />
          )}
        </div>
      )}
      {dirty && (
        <section
          aria-label={t("knowledge-unsaved-changes")}
          className="sticky bottom-0 mt-6 border-t-2 border-ink bg-paper py-3"
        >
          <Preview result={preview.data} pending={preview.isPending} />
          {preview.isError && <Notice error={preview.error} />}
          {save.isError && <Notice error={save.error} />}
          <div className="mt-2 flex flex-wrap items-end gap-3">
            <TextField
              label={t("knowledge-why")}
              value={note}
              onChange={setNote}
              maxLength={200}
              className="min-w-64 flex-1"
            />
            <Button strong disabled={preview.isError || save.isPending} onClick={() => save.mutate(changes)}>
              {t("knowledge-save-version", { number: (versions.versions[0]?.number ?? 0) + 1 })}
            </Button>
            <Button
              onClick={() => {
                setChanges(base);
                preview.reset();
              }}
            >
              {t("knowledge-undo", {
                what: countOf(changes) - countOf(base) > 1 ? t("common-all") : t("knowledge-change"),
              })}
            </Button>
          </div>
        </section>
      )}
    </main>
  );
}
