import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, client, type Schemas } from "../../api/client";
import { type Check, queries, useKnowledge } from "../../api/queries";
import { MovingFigure } from "../../shared/charts/MovingFigure";
import { SwingFigure } from "../../shared/charts/SwingFigure";
import { fixed, t, word } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { typing, useWindowKeys } from "../../shared/ui/useWindowKeys";

const SWINGS = 10;
const MAX_SEED = 2 ** 31;

type Graded = Schemas["PractisedOut"] & { seconds: number };

/** Ten made-up swings of a check at full speed, each answered and resolved. */
export function EyePage() {
  const checks = useKnowledge().checks;
  const [checkId, choose] = useState(checks[0]?.id ?? "");
  const [seed, begin] = useState<number | null>(null);
  const check = checks.find((c) => c.id === checkId);
  return (
    <main className="mx-auto w-full max-w-5xl px-6 py-5">
      <h1 className="text-2xl font-bold">{t("common-eye-practice")}</h1>
      <p className="mb-4 max-w-prose text-soft">{t("account-ten-made-up-swings-full")}</p>
      <div className="mb-4 flex flex-wrap items-end gap-4">
        <Select
          label={t("common-check")}
          value={checkId}
          options={checks.map((c) => ({ id: c.id, label: c.label }))}
          onChange={(id) => {
            choose(id);
            begin(null);
          }}
        />
        <Button
          strong={seed === null}
          onClick={(event) => {
            event.currentTarget.blur(); // the keys are the series' from here on
            begin(Math.floor(Math.random() * MAX_SEED));
          }}
        >
          {seed === null ? t("common-begin") : t("account-ten-more")}
        </Button>
      </div>
      {check && seed !== null && <Series key={`${checkId} ${seed}`} check={check} seed={seed} />}
    </main>
  );
}

function Series({ check, seed }: { check: Check; seed: number }) {
  const cache = useQueryClient();
  const [number, go] = useState(0);
  const [graded, setGraded] = useState<Graded[]>([]);
  const swing = useQuery(queries.practiceSwing(check.id, seed, number));
  const [run, again] = useState(0);
  const begun = useRef(0);
  const answer = graded[number];
  const tell = useMutation({
    mutationFn: async (grade: string) => {
      const seconds = Math.min(600, (performance.now() - begun.current) / 1000);
      const body = { check: check.id, seed, number, grade, seconds };
      return { ...(await ask(client.POST("/api/v1/eye/practice", { body }))), seconds };
    },
    onSuccess: (result) => {
      setGraded((old) => [...old, result]);
      return cache.invalidateQueries({ queryKey: queries.eye.queryKey });
    },
  });
  const over = graded.length === SWINGS && number === SWINGS - 1;
  const next = () => {
    go(number + 1);
    again(0);
  };
  useWindowKeys((event) => {
    if (typing(event.target) || event.altKey || event.ctrlKey || event.metaKey) return;
    const grade = check.grades[Number(event.key) - 1];
    if (event.key === "r") again(run + 1);
    else if (grade && swing.data && !answer && !tell.isPending) tell.mutate(grade);
    else return;
    event.preventDefault();
  });
  if (swing.isError) return <Notice error={swing.error} />;
  return (
    <div className="grid gap-6 md:grid-cols-2">
      <section aria-label={t("account-swing", { n: number + 1, all: SWINGS })}>
        <p className="text-soft">{t("account-swing", { n: number + 1, all: SWINGS })}</p>
        <div className="aspect-square max-h-[60vh] w-full border border-rule bg-sheet">
          {swing.data && (
            <MovingFigure
              key={`${number} ${run}`}
              swing={swing.data}
              label={t("account-made-up-golfer-swings")}
              onBegin={() => {
                if (run === 0) begun.current = performance.now();
              }}
            />
          )}
        </div>
      </section>
      <section aria-label={t("account-what-saw")} className="flex flex-col gap-2">
        <p className="text-lg font-semibold">{check.label}</p>
        {check.grades.map((grade, i) => (
          <Button
            key={grade}
            className="justify-between"
            keyName={String(i + 1)}
            aria-pressed={answer?.grade === grade}
            disabled={!swing.data || answer !== undefined || tell.isPending}
            onClick={() => tell.mutate(grade)}
          >
            {word(grade)}
          </Button>
        ))}
        <Button keyName="r" onClick={() => again(run + 1)}>
          {t("common-replay")}
        </Button>
        {tell.isError && <Notice error={tell.error} />}
        <div aria-live="polite">{answer && <CameraState check={check.id} answer={answer} />}</div>
        {answer && !over && (
          <Button autoFocus strong keyName="Enter" onClick={next}>
            {t("account-next-swing")}
          </Button>
        )}
        {over && <HowItWent check={check} graded={graded} />}
      </section>
    </div>
  );
}

/** What was in the swing, with its picture. */
function CameraState({ check, answer }: { check: string; answer: Graded }) {
  const figure = useQuery(queries.figure(check, "right", ""));
  const right = answer.grade === answer.true_grade;
  const picture = figure.data?.grades.find((g) => g.grade === answer.true_grade);
  return (
    <div className="flex items-center gap-4">
      <p className={`grow text-lg ${right ? "text-moss" : "text-plum"}`}>
        {right
          ? t("account-right-after", {
              grade: word(answer.true_grade),
              seconds: fixed(answer.seconds, 1),
            })
          : t("account-it-was", { grade: word(answer.true_grade) })}
      </p>
      {figure.data && picture && (
        <SwingFigure picture={figure.data} grade={picture} title={word(picture.grade)} className="h-40 w-36 shrink-0" />
      )}
    </div>
  );
}

function HowItWent({ check, graded }: { check: Check; graded: Graded[] }) {
  const sound = check.grades[0];
  const right = graded.filter((g) => g.grade === g.true_grade).length;
  const faults = graded.filter((g) => g.true_grade !== sound);
  const seen = faults.filter((g) => g.grade !== sound).length;
  const alarms = graded.filter((g) => g.true_grade === sound && g.grade !== sound).length;
  return (
    <p role="status" className="border-t border-rule pt-2">
      <b>{t("account-right", { right, all: graded.length })}</b>{" "}
      {t("account-saw-faults-called-sound-swings", {
        faults: faults.length,
        seen,
        sound: graded.length - faults.length,
        alarms,
      })}
    </p>
  );
}
