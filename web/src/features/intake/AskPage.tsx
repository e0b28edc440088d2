import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import type { Units } from "../../shared/format/units";
import { useLanguage } from "../../shared/format/useLanguage";
import { ChooseOne } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { savedText } from "../../shared/ui/savedText";
import { useAutosave } from "../../shared/ui/useAutosave";
import { Wordmark } from "../../shared/ui/Wordmark";
import { AskForm } from "./AskForm";
import type { Answers } from "./ask";

const UNITS = [
  { id: "yd-mph", label: "ask-yards" },
  { id: "m-mph", label: "ask-meters" },
];

/** The intake on the student's phone, behind a link; it shows nothing else. */
export function AskPage() {
  const token = useParams().token ?? "";
  const page = useQuery(queries.askPage(token));
  const spoken = useLanguage(page.data?.language);
  return (
    <div className="mx-auto min-h-screen max-w-3xl px-4 pb-10">
      <header className="flex min-h-14 items-center gap-2 border-b border-rule font-bold">
        <Wordmark /> {t("common-instavis")}
      </header>
      {page.isError && (
        <div className="mt-6">
          <Notice error={page.error} />
        </div>
      )}
      {page.data && spoken && <Filling key={token} token={token} page={page.data} />}
    </div>
  );
}

function Filling({ token, page }: { token: string; page: Schemas["AskPageOut"] }) {
  const cache = useQueryClient();
  const [units, setUnits] = useState<string>("yd-mph");
  const { mutateAsync } = useMutation({
    mutationFn: (body: Answers) =>
      ask(client.PUT("/api/v1/ask/{token}", { params: { path: { token } }, body, keepalive: true })),
    networkMode: "always",
    onSuccess: (saved) => cache.setQueryData(queries.askPage(token).queryKey, saved),
  });
  const form = useAutosave<Answers>({ name: `ask-${token.slice(0, 16)}`, saved: page.answers, save: mutateAsync });
  return (
    <main className="flex flex-col gap-5 py-5">
      <div>
        <h1 className="text-2xl font-bold">{t("ask-before-lesson", { first_name: page.first_name })}</h1>
        <p className="text-soft">
          {t("ask-two-minutes-skip-what-dont", {
            coach: page.coach,
            academy: page.academy,
            together: page.junior ? t("ask-please-fill-together-guardian") : "",
          })}
        </p>
      </div>
      <ChooseOne label={t("ask-units-distance")} options={UNITS} value={units} onChange={(v) => v && setUnits(v)} />
      <AskForm
        answers={form.value}
        words={page.words}
        caution={page.caution}
        units={units as Units}
        who="you"
        group="irons"
        onChange={(next) => form.change(() => next)}
      />
      <p role="status" className="sticky bottom-0 border-t border-rule bg-paper py-3 font-semibold">
        {form.state === "saved" ? t("ask-saved-can-close-page") : savedText(form.state)}
      </p>
      {form.state === "refused" && form.error && <Notice error={form.error} />}
    </main>
  );
}
