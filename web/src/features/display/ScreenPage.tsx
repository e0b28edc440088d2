import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, Problems } from "../../api/client";
import { queries } from "../../api/queries";
import { quoted, t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { Button } from "../../shared/ui/Button";
import { PairForm } from "../../shared/ui/PairForm";
import { matWords } from "./screen";

const STORAGE_KEY = "instavis-mat";
const EVERY = 1000;

/** The student screen: paired by a code, it shows one ball at a time and changes nothing. */
export function ScreenPage() {
  const [token, setToken] = useState(() => sessionStorage.getItem(STORAGE_KEY) ?? "");
  function keep(next: string) {
    if (next) sessionStorage.setItem(STORAGE_KEY, next);
    else sessionStorage.removeItem(STORAGE_KEY);
    setToken(next);
  }
  if (token) return <Mat token={token} onClosed={() => keep("")} />;
  return (
    <PairForm
      title={t("student-screen-students-screen")}
      says={t("student-screen-enter-code-coachs-screen-shows")}
      button={t("student-screen-connect")}
      pair={(code) => ask(client.POST("/api/v1/mat", { body: { code } }))}
      onPaired={keep}
    />
  );
}

function Mat({ token, onClosed }: { token: string; onClosed: () => void }) {
  const result = useQuery({ ...queries.mat(token), refetchInterval: EVERY, staleTime: 0 });
  const spoken = useLanguage(result.data?.language);
  const closed = result.error instanceof Problems && result.error.status === 404;
  if (closed) {
    return (
      <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-4 px-6">
        <p className="text-2xl">{result.error?.message}</p>
        <Button strong onClick={onClosed} className="self-start">
          {t("student-screen-enter-code")}
        </Button>
      </main>
    );
  }
  if (!result.data || !spoken) return null;
  const words = matWords(result.data);
  return (
    <main className={`flex h-screen flex-col justify-between gap-[3vh] p-[4vh] ${words.ground}`}>
      <header className="flex items-baseline justify-between text-[3.4vh] text-soft">
        <h1>{result.data.first_name}</h1>
        <p>
          {result.data.stage}
          {result.data.ball > 0 && t("student-screen-ball", { ball: result.data.ball })}
          {result.isError && t("student-screen-offline")}
        </p>
      </header>
      <div aria-live="polite" className="grid grow content-center gap-[3vh]">
        {result.data.call ? (
          <p className="text-[13vh] leading-none font-bold">{words.call}</p>
        ) : result.data.task ? (
          <p className="text-[9vh] leading-tight font-bold">{result.data.task}</p>
        ) : (
          <>
            <Answer question="student-screen-move" answer={words.move} tone={words.moveTone} />
            <Answer question="student-screen-ball-2" answer={words.ball} tone={words.ballTone} />
          </>
        )}
      </div>
      <footer className="flex items-end justify-between gap-8">
        <p className="text-[5vh] leading-tight">{result.data.cue && quoted(result.data.cue)}</p>
        <p className="shrink-0 text-right text-[4.4vh] leading-tight font-semibold">{words.more}</p>
      </footer>
    </main>
  );
}

function Answer({ question, answer, tone }: { question: string; answer: string; tone: string }) {
  return (
    <p className="grid grid-cols-[24vw_1fr] items-baseline">
      <span className="text-[5vh] text-soft">{question}</span>
      <span className={`text-[15vh] leading-none font-bold ${tone}`}>{answer}</span>
    </p>
  );
}
