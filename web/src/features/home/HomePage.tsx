import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { Problems } from "../../api/client";
import { type Home, records } from "../../api/records";
import { datedDay, localDay } from "../../shared/format/days";
import { ENGLISH, inside, t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { PairStills } from "../../shared/ui/PairStills";
import { Tabs } from "../../shared/ui/Tabs";
import { Wordmark } from "../../shared/ui/Wordmark";
import { Plan } from "./Plan";
import { Practise } from "./Practise";
import { sendingWords } from "./practice";
import { useLog } from "./useLog";

const KEEPER_AGAIN_MS = 5000;
const TABS = [
  { id: "practise", label: "common-practice" },
  { id: "plan", label: "student-page-plan" },
  { id: "page", label: "common-page" },
];

/** The student's phone: practice, plan, lesson page. Works offline. */
export function HomePage() {
  const token = useParams().token ?? "";
  const home = useQuery(records.home(token, localDay(new Date())));
  const spoken = useLanguage(home.data && (home.data.language ?? ENGLISH));
  useKeeper();
  const ended = home.error instanceof Problems && home.error.status === 404;
  return (
    <div className="mx-auto flex min-h-screen max-w-xl flex-col px-4">
      <header className="no-print flex min-h-12 items-center gap-2 border-b border-rule font-bold">
        <Wordmark /> {t("common-instavis")}
      </header>
      {home.isError && (ended || !home.data) && (
        <div className="mt-6">
          <Notice error={home.error} />
        </div>
      )}
      {home.data && spoken && !ended && <AtHome key={token} token={token} home={home.data} />}
    </div>
  );
}

/** Register the service worker that makes the page open offline; retry if it fails. */
function useKeeper() {
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const ask = () =>
      navigator.serviceWorker
        ?.register("/home-worker.js", { scope: "/home/" })
        .catch(() => (timer = setTimeout(ask, KEEPER_AGAIN_MS)));
    void ask();
    return () => clearTimeout(timer);
  }, []);
}

function AtHome({ token, home }: { token: string; home: Home }) {
  const [tab, setTab] = useState("practise");
  const { log, change, online } = useLog(token);
  return (
    <main className="flex grow flex-col gap-4 py-3">
      <h1 className="text-xl font-bold">
        {home.page.student}, {home.page.drill_name ? inside(home.page.drill_name) : t("student-page-lesson")}
      </h1>
      <Tabs label={t("common-view")} tabs={TABS} value={tab} onChange={setTab} />
      {tab === "practise" && <Practise home={home} log={log} change={change} />}
      {tab === "plan" && <Plan token={token} home={home} />}
      {tab === "page" && <Sheet token={token} home={home} />}
      {log.refused.map(({ entry, message }) => (
        <Callout tone="plum" key={entry.entry_id} role="alert">
          {t("student-page-one-practice-entry-not-accepted", { message })}
        </Callout>
      ))}
      <p role="status" className="sticky bottom-0 mt-auto border-t border-rule bg-paper py-2 text-soft">
        {sendingWords(log, online)}
      </p>
    </main>
  );
}

/** The lesson page as the coach wrote it. */
function Sheet({ token, home }: { token: string; home: Home }) {
  const { page } = home;
  return (
    <article>
      <p className="text-soft">
        {t("common-with", { day: datedDay(page.day), coach: page.coach, academy: page.academy })}
      </p>
      {page.sections.map((section) => (
        <section key={section.id} className="mt-4">
          <h2 className="text-lg font-bold">{section.title}</h2>
          {section.lines.map((line, i) => (
            <p
              key={line}
              className={section.id === "correction" && i === 0 ? "text-2xl leading-tight font-semibold" : ""}
            >
              {line}
            </p>
          ))}
        </section>
      ))}
      {page.pair && <PairStills pair={page.pair} from={`/api/v1/home/${token}/pair`} />}
      {page.note && (
        <section className="mt-4">
          <h2 className="text-lg font-bold">{t("common-from", { split: page.coach.split(" ")[0] })}</h2>
          <p>{page.note}</p>
        </section>
      )}
      <Callout as="section" tone="straw" className="mt-5">
        <h2 className="font-bold">{t("common-take-care")}</h2>
        <ul className="text-sm">
          {page.cautions.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      </Callout>
      <a
        href={`/api/v1/home/${token}/page.pdf`}
        className="mt-3 inline-flex min-h-11 items-center underline underline-offset-4"
      >
        {t("common-pdf")}
      </a>
    </article>
  );
}
