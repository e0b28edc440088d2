import { useState } from "react";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { SourceSheet } from "../files/SourceSheet";
import { useDesk } from "./LessonContext";

/** Rows of the bay's bridge that wait for their columns. */
export function WaitingRows() {
  const { lesson } = useDesk();
  const [open, setOpen] = useState<number | null>(null);
  return (
    <>
      {lesson.waiting_sources.map((source) => (
        <Callout as="div" tone="straw" className="mb-2 flex flex-wrap items-center gap-2" role="alert" key={source.id}>
          <p className="grow">{source.text}</p>
          <Button onClick={() => setOpen(source.id)}>{t("lesson-set-columns")}</Button>
        </Callout>
      ))}
      {open !== null && <SourceSheet id={open} onClose={() => setOpen(null)} />}
    </>
  );
}
