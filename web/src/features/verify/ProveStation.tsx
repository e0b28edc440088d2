import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries, useKnowledge } from "../../api/queries";
import { quoted, t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button, KeyCap, LinkButton } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { Tabs } from "../../shared/ui/Tabs";
import { useActions, useChosen, useDesk } from "../lesson/LessonContext";
import { ProofPanel } from "./ProofPanel";
import { ScreenPairing } from "./ScreenPairing";
import { StrandView } from "./StrandView";
import { Trials } from "./Trials";
import { WhatNow } from "./WhatNow";

const TABS = [
  { id: "proof", label: "prove-ball-ball" },
  { id: "compare", label: "prove-compare" },
];

/** Two questions per ball: did the body do it, did club and ball follow? */
export function ProveStation() {
  const { lesson } = useDesk();
  const knowledge = useKnowledge();
  const proof = useQuery(queries.proof(lesson.id));
  const { target } = useChosen();
  const correction = proof.data?.correction;
  const listening =
    lesson.open_block?.purpose === "prove" &&
    lesson.open_block.correction_id === correction?.id &&
    lesson.open_block.stage === correction?.stage;
  const comparing = lesson.open_block?.purpose === "trial";
  const [tab, setTab] = useState(comparing ? "compare" : "proof");

  if (proof.isError) return <Notice error={proof.error} />;
  if (!proof.data) return null;
  const cause = knowledge.causes.find((c) => c.id === correction?.fault);
  const top = (
    <div className="mx-auto mb-1 flex w-full max-w-[87.5rem] flex-wrap items-center justify-between gap-x-6 gap-y-1">
      <div className="flex min-w-0 flex-wrap items-baseline gap-x-4 text-xl">
        {cause && <h2 className="font-bold">{cause.label.split(",")[0]}</h2>}
        {correction?.cue && <p>{quoted(correction.cue)}</p>}
      </div>
      <div className="flex items-center gap-5">
        <Tabs label={t("common-view")} tabs={TABS} value={tab} onChange={setTab} />
        {lesson.filmed && (
          <LinkButton to={`/lessons/${lesson.id}/films${target ? `?ball=${target.number}` : ""}`}>
            {t("common-before-now")} <KeyCap>{KEYS.films}</KeyCap>
          </LinkButton>
        )}
        <ScreenPairing />
      </div>
    </div>
  );
  if (tab === "compare") {
    return (
      <>
        {top}
        <Trials primary={correction?.primary ?? ""} />
      </>
    );
  }
  if (!correction || !proof.data.proof) {
    return (
      <>
        {top}
        <WhatNow />
      </>
    );
  }
  return (
    <>
      {top}
      {!listening && !comparing && lesson.ended_at === null && <GoElsewhere stage={correction.stage} />}
      <div className="mx-auto grid max-w-[87.5rem] gap-6 lg:grid-cols-[minmax(0,1fr)_23.25rem] lg:@max-[70rem]:grid-cols-[minmax(0,1fr)_17rem] lg:@max-[62rem]:grid-cols-[minmax(0,1fr)_15rem]">
        <section aria-label={t("prove-strands")} className="min-w-0">
          <StrandView
            correction={correction}
            ballIds={proof.data.ball_ids}
            band={proof.data.band}
            pivot={proof.data.proof.pivot}
          />
        </section>
        <ProofPanel correction={correction} proof={proof.data.proof} ballIds={proof.data.ball_ids} />
      </div>
    </>
  );
}

/** The next balls go into the baseline: one touch returns to the correction. */
function GoElsewhere({ stage }: { stage: string }) {
  const { openBlock } = useActions();
  return (
    <Callout as="div" tone="straw" className="mx-auto mb-2 flex max-w-[87.5rem] flex-wrap items-center gap-3">
      <p className="grow">{t("prove-next-balls-go-into-baseline")}</p>
      <Button strong disabled={openBlock.isPending} onClick={() => openBlock.mutate({ purpose: "prove", stage })}>
        {t("prove-prove")}
      </Button>
      {openBlock.isError && <Notice error={openBlock.error} />}
    </Callout>
  );
}
