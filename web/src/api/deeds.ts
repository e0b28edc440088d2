/** What the screens of a lesson change. */
import { useMutation, useMutationState, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { ask, client, type Schemas } from "./client";
import { isFollowed } from "./lines";
import { at, type CorrectionIn, type IntakeBody, type Marks, queries, type Shot } from "./queries";

import { durable, unsavedUnder } from "./unsaved";

/** After a deed: its consequences come over the live line; without one everything is asked for again. */
function useRefresh(lessonId: number) {
  const cache = useQueryClient();
  return () => (isFollowed(lessonId) ? Promise.resolve() : cache.invalidateQueries({ queryKey: ["lesson", lessonId] }));
}

/** What the coach of a practice lesson asks of its golfer. */
export function useTrainingActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = useRefresh(lessonId);
  const params = at(lessonId).params;
  return {
    hit: useMutation({
      mutationFn: (count: number) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/training/balls", { params, body: { count } })),
      onSuccess: refresh,
    }),
    end: useMutation({
      mutationFn: () => ask(client.PATCH("/api/v1/lessons/{lesson_id}", { params, body: { ended: true } })),
      onSuccess: () =>
        Promise.all([
          cache.invalidateQueries({ queryKey: ["lesson", lessonId] }),
          cache.invalidateQueries({ queryKey: queries.trainings.queryKey }),
        ]),
    }),
  };
}

/** Everything a lesson's screens change but the marks of its balls. */
export function useLessonActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = useRefresh(lessonId);
  const params = at(lessonId).params;
  return {
    move: useMutation({
      mutationFn: (body: Schemas["LessonChange"]) => ask(client.PATCH("/api/v1/lessons/{lesson_id}", { params, body })),
      onSuccess: refresh,
    }),
    takeBay: useMutation({
      mutationFn: (bay_id: number | null) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/bay", { params, body: { bay_id } })),
      onSuccess: () => Promise.all([refresh(), cache.invalidateQueries({ queryKey: ["bays"] })]),
    }),
    openBlock: useMutation({
      mutationFn: (body: Schemas["BlockIn"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/blocks", { params, body })),
      onSuccess: refresh,
    }),
    setConditions: useMutation({
      mutationFn: (conditions: Record<string, string>) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/conditions", { params, body: { conditions } })),
      onSuccess: refresh,
    }),
    // `keepalive`: the request outlives the page that sent it.
    saveIntake: useMutation({
      mutationFn: (body: IntakeBody) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/intake", { params, body, keepalive: true })),
      networkMode: "always",
      onSuccess: async (saved) => {
        const { queryKey } = queries.intake(lessonId);
        await cache.cancelQueries({ queryKey }); // an answer on its way may be older
        cache.setQueryData(queryKey, saved);
        void refresh();
      },
    }),
    testBody: useMutation({
      mutationFn: (results: Record<string, string>) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/body", { params, body: { results } })),
      onSuccess: refresh,
    }),
    grade: useMutation({
      mutationKey: ["grade", lessonId],
      ...durable<Record<string, string>>(`grades-${lessonId}`, (grades) => `grades-${lessonId}-${Object.keys(grades)}`),
      mutationFn: ({ source = "eye", ...grades }: Record<string, string>) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/checks", { params, body: { grades, source } })),
      onSuccess: refresh,
    }),
    changeRecording: useMutation({
      mutationFn: ({ id, body }: { id: number; body: Schemas["RecordingChange"] }) =>
        ask(client.PATCH("/api/v1/recordings/{recording_id}", { params: { path: { recording_id: id } }, body })),
      onSuccess: refresh,
    }),
    changeStill: useMutation({
      mutationFn: ({ id, body }: { id: number; body: Schemas["StillChange"] }) =>
        ask(client.PATCH("/api/v1/stills/{still_id}", { params: { path: { still_id: id } }, body })),
      // A quick hand clicks the next landmark before the answer to the last one is here.
      onMutate: ({ id, body }) =>
        cache.setQueryData(
          queries.stills(lessonId).queryKey,
          (old) =>
            old && {
              ...old,
              stills: old.stills.map((s) =>
                s.id === id ? { ...s, points: body.points ?? s.points, scale: body.scale ?? s.scale } : s,
              ),
            },
        ),
      onSettled: refresh,
    }),
    beginTrial: useMutation({
      mutationFn: (body: Schemas["TrialIn"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/trials", { params, body })),
      onSuccess: refresh,
    }),
    endTrial: useMutation({
      mutationFn: (trial_id: number) =>
        ask(client.POST("/api/v1/trials/{trial_id}/end", { params: { path: { trial_id } } })),
      onSuccess: refresh,
    }),
    offerScreen: useMutation({
      mutationFn: () => ask(client.POST("/api/v1/lessons/{lesson_id}/screens", { params })),
    }),
    endScreens: useMutation({
      mutationFn: () => ask(client.DELETE("/api/v1/lessons/{lesson_id}/screens", { params })),
    }),
    judgeAnew: useMutation({
      mutationFn: () => ask(client.POST("/api/v1/lessons/{lesson_id}/judge-anew", { params })),
      onSuccess: refresh,
    }),
    correct: useMutation({
      mutationFn: (body: CorrectionIn) => ask(client.POST("/api/v1/lessons/{lesson_id}/corrections", { params, body })),
      onSuccess: refresh,
    }),
    changeCorrection: useMutation({
      mutationFn: ({ id, body }: { id: number; body: Schemas["CorrectionChange"] }) =>
        ask(client.PATCH("/api/v1/corrections/{correction_id}", { params: { path: { correction_id: id } }, body })),
      onSuccess: refresh,
    }),
    saveTakeHome: useMutation({
      mutationFn: (body: Schemas["TakeHomeIn"]) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/take-home", { params, body, keepalive: true })),
      networkMode: "always",
      onSuccess: () => void cache.invalidateQueries({ queryKey: queries.takeHome(lessonId).queryKey }),
    }),
    addByHand: useMutation({
      mutationFn: (body: Schemas["BallByHand"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/balls", { params, body })),
      onSuccess: refresh,
    }),
    claim: useMutation({
      mutationFn: (body: Schemas["ClaimIn"]) => ask(client.POST("/api/v1/lessons/{lesson_id}/claim", { params, body })),
      onSuccess: refresh,
    }),
    noteSetup: useMutation({
      mutationFn: (body: Schemas["SetupIn"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/setups", { params, body })),
      onSuccess: refresh,
    }),
    splitBlock: useMutation({
      mutationFn: ({ block_id, shot_id }: { block_id: number; shot_id: number }) =>
        ask(client.POST("/api/v1/blocks/{block_id}/split", { params: { path: { block_id } }, body: { shot_id } })),
      onSuccess: refresh,
    }),
    mergeBlock: useMutation({
      mutationFn: (block_id: number) =>
        ask(client.POST("/api/v1/blocks/{block_id}/merge", { params: { path: { block_id } } })),
      onSuccess: refresh,
    }),
    takeRefused: useMutation({
      mutationFn: (body: Schemas["TakeRefused"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/refused", { params, body })),
      onSuccess: refresh,
    }),
    leaveRefused: useMutation({
      mutationFn: ({ bay_id, body }: { bay_id: number; body: Schemas["LeaveRefused"] }) =>
        ask(client.POST("/api/v1/bays/{bay_id}/refused/leave", { params: { path: { bay_id } }, body })),
      // It changes the bay, which has no line of its own.
      onSuccess: () => cache.invalidateQueries({ queryKey: ["lesson", lessonId] }),
    }),
  };
}

/** The grades that wait for the connection to come back; nothing while the server answers. */
export function useWaitingGrades(lessonId: number): Record<string, string> | undefined {
  const sending = useMutationState({
    filters: { mutationKey: ["grade", lessonId], status: "pending" },
    select: ({ state }) => ({ ...state }),
  });
  if (!sending.some((one) => one.failureCount > 0)) return undefined;
  const { source: _, ...grades } = Object.assign({}, ...sending.map((one) => one.variables));
  return grades;
}

export type MarkOfOne = { id: number; marks: Marks };

/** Sends what was graded and marked on a page that went away before the server had it. */
export function useLeftOver(
  lessonId: number,
  grade: (grades: Record<string, string>) => void,
  mark: (one: MarkOfOne) => void,
) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the lesson is opened
  useEffect(() => {
    for (const grades of unsavedUnder<Record<string, string>>(`grades-${lessonId}-`)) grade(grades);
    for (const one of unsavedUnder<MarkOfOne>(`marks-${lessonId}-`)) mark(one);
  }, [lessonId]);
}

/** The marks of a lesson's balls, pressed many times a minute. */
export function useMarkActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = useRefresh(lessonId);
  const params = at(lessonId).params;
  const shown = (changed: Shot[]) => {
    const fresh = new Map(changed.map((s) => [s.id, s]));
    cache.setQueryData(queries.shots(lessonId).queryKey, (old) => old?.map((s) => fresh.get(s.id) ?? s));
    return refresh();
  };
  return {
    mark: useMutation({
      ...durable<MarkOfOne>(`marks-${lessonId}`, ({ id, marks }) => `marks-${lessonId}-${id}-${Object.keys(marks)}`),
      mutationFn: ({ id, marks }: MarkOfOne) =>
        ask(client.PATCH("/api/v1/shots/{shot_id}", { params: { path: { shot_id: id } }, body: marks })),
      onSuccess: (shot) => shown([shot]),
    }),
    markMany: useMutation({
      mutationFn: (body: Schemas["MarksOfMany"]) =>
        ask(client.POST("/api/v1/lessons/{lesson_id}/marks", { params, body })),
      onSuccess: shown,
    }),
  };
}
