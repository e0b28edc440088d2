import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { ask, client } from "../api/client";
import { Button } from "../kit/Button";
import { ChooseOne, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { Sheet } from "../kit/Sheet";

const HANDS = [
  { id: "right", label: "Right-handed" },
  { id: "left", label: "Left-handed" },
];

/** A new student; a junior needs a guardian's consent before anything is kept. */
export function StudentForm({ onClose }: { onClose: () => void }) {
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const [hand, setHand] = useState("right");
  const [handicap, setHandicap] = useState("");
  const [born, setBorn] = useState("");
  const [guardian, setGuardian] = useState("");
  const save = useMutation({
    mutationFn: () =>
      ask(
        client.POST("/api/v1/students", {
          body: {
            name,
            hand,
            handicap: handicap === "" ? null : Number(handicap),
            born: born || null,
            guardian_consent: guardian,
          },
        }),
      ),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["students"] });
      onClose();
    },
  });
  return (
    <Sheet title="New student" open onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField label="Name" value={name} onChange={setName} required maxLength={120} />
        <ChooseOne label="Plays" options={HANDS} value={hand} onChange={(value) => value && setHand(value)} />
        <div className="grid grid-cols-2 gap-4">
          <TextField label="Handicap (empty: not known)" type="number" step="0.1" value={handicap} onChange={setHandicap} />
          <TextField label="Born (for juniors and limits)" type="date" value={born} onChange={setBorn} />
        </div>
        <TextField label="Guardian who consented (under 18)" value={guardian} onChange={setGuardian} maxLength={120} />
        {save.isError && <Notice error={save.error} />}
        <div className="flex gap-2">
          <Button type="submit" strong disabled={save.isPending}>
            Keep
          </Button>
          <Button onClick={onClose}>Leave</Button>
        </div>
      </form>
    </Sheet>
  );
}
