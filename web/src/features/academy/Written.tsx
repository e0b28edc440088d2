import { useInfiniteQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { people } from "../../api/people";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button, FileButton } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";

const KINDS = [
  { id: "done", label: "academy-changes" },
  { id: "read", label: "academy-record-views" },
];

/** The activity log: changes and record views. */
export function Written() {
  const clock = useClock();
  const [kind, setKind] = useState("done");
  const [words, setWords] = useState("");
  const lines = useInfiniteQuery(people.audit(useDeferredValue(words), kind === "read"));
  const rows = lines.data?.pages.flat() ?? [];
  return (
    <section aria-labelledby="written">
      <h2 id="written" className="text-xl font-bold">
        {t("academy-activity-log")}
      </h2>
      <p className="text-sm text-soft">{t("academy-invitations-roles-passwords-exports-deletions")}</p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <ChooseOne label={t("academy-show")} options={KINDS} value={kind} onChange={(next) => setKind(next || kind)} />
        <TextField
          className="min-w-40 grow"
          label={t("common-search")}
          value={words}
          onChange={setWords}
          maxLength={80}
        />
        <FileButton href="/api/v1/audit.csv" download>
          {t("academy-all-table")}
        </FileButton>
      </div>
      {lines.isError && <Notice error={lines.error} />}
      {lines.isSuccess && rows.length === 0 && <p className="mt-2">{t("academy-no-activity-yet")}</p>}
      <ol className="mt-3 border-y border-rule" aria-label={t("academy-activity-log")}>
        {rows.map((line) => (
          <li key={line.id} className="grid grid-cols-[10rem_minmax(0,1fr)] gap-3 py-1.5 text-sm">
            <span className="text-soft">{clock.moment(line.at)}</span>
            <span>
              {line.who}: {line.text}
            </span>
          </li>
        ))}
      </ol>
      {lines.hasNextPage && (
        <Button className="mt-2" disabled={lines.isFetchingNextPage} onClick={() => void lines.fetchNextPage()}>
          {t("academy-older")}
        </Button>
      )}
    </section>
  );
}
