/** Changes made by a lesson's screens. */
import { useMutation, useMutationState, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { useChange, type Value } from "./changes";
import { ask, client, type Schemas } from "./client";
import { isFollowed } from "./lines";
import { at, type IntakeBody, type Marks, queries, type Shot } from "./queries";

import { durable, unsavedUnder } from "./unsaved";

/** After a change, its consequences arrive over the live connection; without one, everything is fetched again. */
function useRefresh(lessonId: number) {
  const cache = useQueryClient();
  return () => (isFollowed(lessonId) ? Promise.resolve() : cache.invalidateQueries({ queryKey: ["lesson", lessonId] }));
}

/** Commands to the golfer of a practice lesson. */
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

/** Return the pictures with one changed as the server will change it. */
function changed(stills: Schemas["StillOut"][], { id, body }: Value<"changeStill">): Schemas["StillOut"][] {
  return stills.map((s) => (s.id === id ? { ...s, points: body.points ?? s.points, scale: body.scale ?? s.scale } : s));
}

/** All changes of a lesson except marks of balls. */
export function useLessonActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = useRefresh(lessonId);
  const still = useChange(lessonId, "changeStill", refresh);
  const params = at(lessonId).params;
  return {
    move: useChange(lessonId, "move", refresh),
    rememberStation: useMutation({
      mutationFn: (station: string) => ask(client.PATCH("/api/v1/lessons/{lesson_id}", { params, body: { station } })),
      onSuccess: refresh,
    }),
    callBalls: useChange(lessonId, "callBalls", refresh),
    takeBay: useMutation({
      mutationFn: (bay_id: number | null) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/bay", { params, body: { bay_id } })),
      onSuccess: () => Promise.all([refresh(), cache.invalidateQueries({ queryKey: ["bays"] })]),
    }),
    openBlock: useChange(lessonId, "openBlock", refresh),
    setConditions: useChange(lessonId, "setConditions", refresh),
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
    testBody: useChange(lessonId, "testBody", refresh),
    grade: useMutation({
      mutationKey: ["grade", lessonId],
      ...durable<Record<string, string>>(`grades-${lessonId}`, (grades) => `grades-${lessonId}-${Object.keys(grades)}`),
      mutationFn: ({ source = "eye", ...grades }: Record<string, string>) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/checks", { params, body: { grades, source } })),
      onSuccess: refresh,
    }),
    changeRecording: useChange(lessonId, "changeRecording", refresh),
    changeStill: {
      ...still,
      // A quick hand clicks the next landmark before the answer to the last one is here.
      mutate: (change: Value<"changeStill">) => {
        cache.setQueryData(
          queries.stills(lessonId).queryKey,
          (old) => old && { ...old, stills: changed(old.stills, change) },
        );
        still.mutate(change, { onError: refresh });
      },
    },
    beginTrial: useChange(lessonId, "beginTrial", refresh),
    endTrial: useChange(lessonId, "endTrial", refresh),
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
    correct: useChange(lessonId, "correct", refresh),
    changeCorrection: useChange(lessonId, "changeCorrection", refresh),
    saveTakeHome: useMutation({
      mutationFn: (body: Schemas["TakeHomeIn"]) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/take-home", { params, body, keepalive: true })),
      networkMode: "always",
      onSuccess: () => void cache.invalidateQueries({ queryKey: queries.takeHome(lessonId).queryKey }),
    }),
    addByHand: useChange(lessonId, "addByHand", refresh),
    claim: useChange(lessonId, "claim", refresh),
    noteSetup: useChange(lessonId, "noteSetup", refresh),
    splitBlock: useChange(lessonId, "splitBlock", refresh),
    mergeBlock: useChange(lessonId, "mergeBlock", refresh),
    takeRefused: useChange(lessonId, "takeRefused", refresh),
    // It changes the bay, which has no line of its own.
    leaveRefused: useChange(lessonId, "leaveRefused", () =>
      cache.invalidateQueries({ queryKey: ["lesson", lessonId] }),
    ),
  };
}

/** Return the answers that wait for the connection; nothing while the server responds. */
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

/** Send answers and marks of a page that went away before the server had them. */
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

/** Marks of a lesson's balls, pressed many times a minute. */
export function useMarkActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = useRefresh(lessonId);
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
    markMany: useChange(lessonId, "markMany", shown),
  };
}
