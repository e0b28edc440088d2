import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "react-router";

import { queries, useKnowledge } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";
import { ProofPanel } from "./ProofPanel";
import { StrandView } from "./StrandView";

/** Two questions a ball: did the body do it, did club and ball answer? */
export function ProveStation() {
  const { lesson, actions } = useDesk();
  const knowledge = useKnowledge();
  const proof = useQuery(queries.proof(lesson.id));
  const correction = proof.data?.correction;
  const listening =
    lesson.open_block?.purpose === "prove" && lesson.open_block.correction_id === correction?.id && lesson.open_block.stage === correction?.stage;
  const { mutate, isPending } = actions.openBlock;
  const stage = correction?.stage;

  // Coming here says: the next balls prove the correction.
  useEffect(() => {
    if (stage !== undefined && !listening && !isPending && lesson.ended_at === null) mutate({ purpose: "prove", stage });
  }, [stage, listening, isPending, mutate, lesson.ended_at]);

  if (proof.isError) return <Notice error={proof.error} />;
  if (!proof.data) return null;
  if (!correction || !proof.data.proof) {
    return (
      <p className="mx-auto max-w-prose text-lg">
        Nothing is being corrected yet.{" "}
        <Link to={`/lessons/${lesson.id}/correct`} className="underline underline-offset-4">
          Choose one thing
        </Link>{" "}
        and its gate appears here.
      </p>
    );
  }
  const cause = knowledge.causes.find((c) => c.id === correction.fault);
  return (
    <div className="mx-auto grid max-w-[1400px] gap-6 lg:grid-cols-[minmax(0,1fr)_372px]">
      <section aria-label="Strands" className="min-w-0">
        <div className="mb-1 flex flex-wrap items-baseline gap-x-4 text-xl">
          <h2 className="font-bold">{cause?.label.split(",")[0]}</h2>
          {correction.cue && <p>“{correction.cue}”</p>}
        </div>
        <StrandView correction={correction} ballIds={proof.data.ball_ids} />
      </section>
      <ProofPanel correction={correction} proof={proof.data.proof} ballIds={proof.data.ball_ids} />
    </div>
  );
}
