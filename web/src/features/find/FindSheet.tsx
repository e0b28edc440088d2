import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useDeferredValue, useId, useState } from "react";
import { useNavigate } from "react-router";
import { queries, useKnowledge, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { TextField } from "../../shared/ui/Field";
import { Sheet } from "../../shared/ui/Sheet";
import { entriesOf, type Find, fitting, MAXIMUM, pagesFor, peopleIn } from "./finds";

/** One field to search students, lessons, faults, checks, drills and pages. */
export function FindSheet({ onClose }: { onClose: () => void }) {
  const [words, setWords] = useState("");
  const [at, setAt] = useState(0);
  const list = useId();
  const navigate = useNavigate();
  const finds = useFinds(words);
  const chosen = finds[Math.min(at, finds.length - 1)];

  function go(find: Find | undefined) {
    if (!find) return;
    onClose();
    void navigate(find.to);
  }
  function onKey(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setAt((now) => (Math.min(now, finds.length - 1) + step + finds.length) % finds.length);
    else if (event.key === "Enter") go(chosen);
    else return;
    event.preventDefault();
  }
  return (
    <Sheet title={t("common-search")} open onClose={onClose}>
      <TextField
        label={t("search-student-lesson-fault-check-drill")}
        role="combobox"
        aria-expanded="true"
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={chosen && `${list}-${chosen.key}`}
        value={words}
        autoComplete="off"
        autoFocus
        onKeyDown={onKey}
        onChange={(next) => {
          setWords(next);
          setAt(0);
        }}
      />
      <div id={list} role="listbox" aria-label={t("search-results")} className="mt-3 min-h-[27rem]">
        {finds.map((find) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field above has the focus and the keys
          <div
            key={find.key}
            id={`${list}-${find.key}`}
            role="option"
            tabIndex={-1}
            aria-selected={find === chosen}
            onClick={() => go(find)}
            className={`grid min-h-12 cursor-pointer grid-cols-[5.5rem_1fr] items-center gap-3 border-b border-rule px-3 ${
              find === chosen ? "bg-straw-ground" : "hover:bg-paper"
            }`}
          >
            <span className="text-sm text-soft">{find.kind}</span>
            <span className="min-w-0 truncate">
              <span className="font-semibold">{find.label}</span> <span className="text-sm text-soft">{find.says}</span>
            </span>
          </div>
        ))}
      </div>
      <p role="status" className={finds.length ? "sr-only" : "text-soft"}>
        {finds.length ? t("search-found", { n: finds.length }) : t("search-no-results-try-first-letters")}
      </p>
    </Sheet>
  );
}

function useFinds(words: string): Find[] {
  const knowledge = useKnowledge();
  const { role } = useSession();
  const wanted = useDeferredValue(words.trim());
  const roster = useQuery({ ...queries.roster({ archived: false, words: wanted }), placeholderData: keepPreviousData });
  const rows = roster.data?.rows ?? [];
  if (!wanted)
    return [...peopleIn(rows.filter((row) => row.going)).filter(isLesson), ...pagesFor(role)].slice(0, MAXIMUM);
  const known = fitting([...entriesOf(knowledge), ...pagesFor(role)], wanted);
  // What the server found by a part of a name has a place of its own, or a common word would hide it.
  const people = peopleIn(rows).slice(0, known.length ? Math.ceil(MAXIMUM / 2) + 1 : MAXIMUM);
  return [...people, ...known].slice(0, MAXIMUM);
}

const isLesson = (find: Find) => find.key.startsWith("lesson/");
