/** Changes of a lesson that outlive a lost connection and a reload; the server carries each out once. */
import { type MutateOptions, useMutation, useMutationState, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";

import { ask, client, type Schemas } from "./client";
import { at, type CorrectionIn } from "./queries";
import { durable, unsavedUnder } from "./unsaved";

type Once = { headers: { "Idempotency-Key": string } };

/** Send each change; `once` is its key. */
function requestsOf(lessonId: number) {
  const { params } = at(lessonId);
  return {
    move: (body: Schemas["LessonChange"], once: Once) =>
      ask(client.PATCH("/api/v1/lessons/{lesson_id}", { params, body, ...once })),
    openBlock: (body: Schemas["BlockIn"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/blocks", { params, body, ...once })),
    splitBlock: ({ block_id, shot_id }: { block_id: number; shot_id: number }, once: Once) =>
      ask(
        client.POST("/api/v1/blocks/{block_id}/split", { params: { path: { block_id } }, body: { shot_id }, ...once }),
      ),
    mergeBlock: (block_id: number, once: Once) =>
      ask(client.POST("/api/v1/blocks/{block_id}/merge", { params: { path: { block_id } }, ...once })),
    setConditions: (conditions: Record<string, string>, once: Once) =>
      ask(client.PUT("/api/v1/lessons/{lesson_id}/conditions", { params, body: { conditions }, ...once })),
    testBody: (results: Record<string, string>, once: Once) =>
      ask(client.PUT("/api/v1/lessons/{lesson_id}/body", { params, body: { results }, ...once })),
    noteSetup: (body: Schemas["SetupIn"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/setups", { params, body, ...once })),
    addByHand: (body: Schemas["BallByHand"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/balls", { params, body, ...once })),
    claim: (body: Schemas["ClaimIn"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/claim", { params, body, ...once })),
    takeRefused: (body: Schemas["TakeRefused"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/refused", { params, body, ...once })),
    leaveRefused: ({ bay_id, body }: { bay_id: number; body: Schemas["LeaveRefused"] }, once: Once) =>
      ask(client.POST("/api/v1/bays/{bay_id}/refused/leave", { params: { path: { bay_id } }, body, ...once })),
    changeRecording: ({ id, body }: { id: number; body: Schemas["RecordingChange"] }, once: Once) =>
      ask(client.PATCH("/api/v1/recordings/{recording_id}", { params: { path: { recording_id: id } }, body, ...once })),
    changeStill: ({ id, body }: { id: number; body: Schemas["StillChange"] }, once: Once) =>
      ask(client.PATCH("/api/v1/stills/{still_id}", { params: { path: { still_id: id } }, body, ...once })),
    correct: (body: CorrectionIn, once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/corrections", { params, body, ...once })),
    changeCorrection: ({ id, body }: { id: number; body: Schemas["CorrectionChange"] }, once: Once) =>
      ask(
        client.PATCH("/api/v1/corrections/{correction_id}", { params: { path: { correction_id: id } }, body, ...once }),
      ),
    beginTrial: (body: Schemas["TrialIn"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/trials", { params, body, ...once })),
    endTrial: (trial_id: number, once: Once) =>
      ask(client.POST("/api/v1/trials/{trial_id}/end", { params: { path: { trial_id } }, ...once })),
    callBalls: (_: null, once: Once) => ask(client.POST("/api/v1/lessons/{lesson_id}/calls", { params, ...once })),
    markMany: (body: Schemas["MarksOfMany"], once: Once) =>
      ask(client.POST("/api/v1/lessons/{lesson_id}/marks", { params, body, ...once })),
  };
}

type Requests = ReturnType<typeof requestsOf>;
type Name = keyof Requests;
export type Value<N extends Name> = Parameters<Requests[N]>[0];
type Answer<N extends Name> = Awaited<ReturnType<Requests[N]>>;
type Change = { name: Name; value: unknown; key: string; at: number };

const under = (lessonId: number) => `changes-${lessonId}`;

/** Return a unique key; `randomUUID` exists on secure pages only. */
function newKey(): string {
  return Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) => part.toString(36)).join("-");
}

function sending(lessonId: number) {
  const requests = requestsOf(lessonId) as Record<Name, (value: unknown, once: Once) => Promise<unknown>>;
  return {
    mutationKey: [under(lessonId)],
    ...durable<Change>(under(lessonId), ({ key }) => `${under(lessonId)}-${key}`),
    mutationFn: ({ name, value, key }: Change) => requests[name](value, { headers: { "Idempotency-Key": key } }),
  };
}

/** Return the mutation that sends one kind of change. */
export function useChange<N extends Name>(lessonId: number, name: N, onSuccess: (answer: Answer<N>) => unknown) {
  const mutation = useMutation({ ...sending(lessonId), onSuccess: (answer) => onSuccess(answer as Answer<N>) });
  const { mutate: send } = mutation;
  const mutate = useCallback(
    (value: Value<N>, options?: Pick<MutateOptions<unknown, Error, Change>, "onSuccess" | "onError">) =>
      send({ name, value, key: newKey(), at: Date.now() }, options),
    [send, name],
  );
  return { ...mutation, mutate };
}

/** Send the changes of a page that went away before the server had them, in the order they were made. */
export function useLeftOverChanges(lessonId: number) {
  const cache = useQueryClient();
  const mutation = useMutation({
    ...sending(lessonId),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["lesson", lessonId] }),
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the lesson is opened
  useEffect(() => {
    const left = unsavedUnder<Change>(`${under(lessonId)}-`).sort((a, b) => a.at - b.at);
    for (const change of left) mutation.mutate(change);
  }, [lessonId]);
  return mutation;
}

/** Return whether a change waits for the connection to come back. */
export function useWaitingChanges(lessonId: number): boolean {
  const waiting = useMutationState({
    filters: { mutationKey: [under(lessonId)], status: "pending" },
    select: ({ state }) => state.failureCount > 0,
  });
  return waiting.includes(true);
}
