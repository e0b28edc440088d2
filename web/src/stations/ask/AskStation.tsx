import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { type IntakeBody, queries, useKnowledge } from "../../api/queries";
import { ChooseMany, ChooseOne, TextField } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";

const SIDES = [
  { id: "left", label: "Left" },
  { id: "straight", label: "Straight" },
  { id: "right", label: "Right" },
  { id: "both", label: "Both sides" },
];
const QUIET_MS = 500;

/** The usual miss, contact, feels and limits: two minutes, kept as they are touched. */
export function AskStation() {
  const { lesson } = useDesk();
  const intake = useQuery(queries.intake(lesson.id));
  if (intake.isError) return <Notice error={intake.error} />;
  if (!intake.data) return null;
  return <IntakeForm key={lesson.id} first={intake.data} />;
}

function IntakeForm({ first }: { first: IntakeBody }) {
  const { actions, lesson } = useDesk();
  const knowledge = useKnowledge();
  const [body, setBody] = useState(first);
  const touched = useRef(false);
  const { mutate } = actions.saveIntake;

  useEffect(() => {
    if (!touched.current) return;
    const timer = setTimeout(() => mutate(body), QUIET_MS);
    return () => clearTimeout(timer);
  }, [body, mutate]);

  function set<K extends keyof IntakeBody>(name: K, value: IntakeBody[K]) {
    touched.current = true;
    setBody((old) => ({ ...old, [name]: value }));
  }

  const words = (kind: string) => knowledge.intake_words.filter((w) => w.kind === kind).map(({ id, label }) => ({ id, label }));
  const regions = Object.entries(knowledge.words.region ?? {}).map(([id, label]) => ({ id, label }));
  const medical = knowledge.cautions.find((c) => c.id === "not-medical");
  return (
    <div className="mx-auto grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-2">
      <section className="flex flex-col gap-5" aria-labelledby="ask-miss">
        <h2 id="ask-miss" className="text-2xl font-bold">
          What does {lesson.student.name.split(" ")[0]}'s usual miss do?
        </h2>
        <ChooseOne label="It starts, seen from behind the ball" options={SIDES} value={body.start ?? ""} onChange={(v) => set("start", v)} />
        <ChooseOne label="It curves to the" options={SIDES} value={body.curve ?? ""} onChange={(v) => set("curve", v)} />
        <ChooseMany label="Contact feels" options={words("contact")} value={body.contact ?? []} onChange={(v) => set("contact", v)} />
        <ChooseMany label="The swing feels" options={words("feel")} value={body.feels ?? []} onChange={(v) => set("feels", v)} />
        <TextField label="Working on at the moment" value={body.thoughts ?? ""} maxLength={300} onChange={(v) => set("thoughts", v)} />
      </section>
      <section className="flex flex-col gap-5" aria-labelledby="ask-body">
        <h2 id="ask-body" className="text-2xl font-bold">
          What should be spared?
        </h2>
        <ChooseMany label="Sore, stiff or injured" options={regions} value={body.limits ?? []} onChange={(v) => set("limits", v)} />
        <TextField label="In the student's words" value={body.pain ?? ""} maxLength={300} onChange={(v) => set("pain", v)} />
        {medical && <p className="border-l-4 border-straw bg-straw-ground px-3 py-2">{medical.text}</p>}
        <TextField label="Goal" value={body.goal ?? ""} maxLength={300} onChange={(v) => set("goal", v)} />
        <TextField label="Kit at home (wall, chair, rod, soft ball)" value={body.props ?? ""} maxLength={300} onChange={(v) => set("props", v)} />
        <p role="status" className="text-sm text-soft">
          {actions.saveIntake.isPending ? "Keeping…" : actions.saveIntake.isSuccess ? "Kept." : "Kept as you touch it."}
        </p>
        {actions.saveIntake.isError && <Notice error={actions.saveIntake.error} />}
      </section>
    </div>
  );
}
