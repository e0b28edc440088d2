/** What the screens read and change, by name. */
import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { ask, client, type Schemas } from "./client";
import { isFollowed } from "./lines";

export type Lesson = Schemas["LessonOut"];
export type LessonRow = Schemas["LessonRow"];
export type Student = Schemas["StudentOut"];
export type Shot = Schemas["ShotOut"];
export type Ranking = Schemas["Ranking"];
export type Candidate = Schemas["Candidate"];
export type Proof = Schemas["Proof"];
export type Knowledge = Schemas["KnowledgeOut"];
export type Check = Schemas["Check"];
export type IntakeBody = Schemas["IntakeBody"];
export type Session = Schemas["SessionOut"];
export type Bay = Schemas["BayOut"];
export type CorrectionIn = Schemas["CorrectionIn"];
export type Marks = Schemas["Marks"];

const at = (lesson_id: number) => ({ params: { path: { lesson_id } } });

export const queries = {
  session: queryOptions({
    queryKey: ["session"],
    queryFn: () => ask(client.GET("/api/v1/session")),
    retry: false,
    staleTime: Infinity,
  }),
  knowledge: queryOptions({
    queryKey: ["knowledge"],
    queryFn: () => ask(client.GET("/api/v1/knowledge")),
    staleTime: Infinity,
  }),
  academy: queryOptions({
    queryKey: ["academy"],
    queryFn: () => ask(client.GET("/api/v1/academy")),
    staleTime: Infinity,
  }),
  students: queryOptions({ queryKey: ["students"], queryFn: () => ask(client.GET("/api/v1/students")) }),
  lessons: queryOptions({ queryKey: ["lessons"], queryFn: () => ask(client.GET("/api/v1/lessons")) }),
  bays: queryOptions({ queryKey: ["bays"], queryFn: () => ask(client.GET("/api/v1/bays")) }),
  lesson: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "lesson"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}", at(id))),
    }),
  shots: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "shots"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/shots", at(id))),
    }),
  askPage: (token: string) =>
    queryOptions({
      queryKey: ["ask", token],
      queryFn: () => ask(client.GET("/api/v1/ask/{token}", { params: { path: { token } } })),
    }),
  setups: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "setups"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/setups", at(id))),
    }),
  earlier: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "earlier"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/earlier", at(id))),
      staleTime: Infinity,
    }),
  refused: (id: number, bay_id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "refused", bay_id],
      queryFn: () => ask(client.GET("/api/v1/bays/{bay_id}/refused", { params: { path: { bay_id } } })),
    }),
  tray: (id: number, bay_id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "tray", bay_id],
      queryFn: () => ask(client.GET("/api/v1/bays/{bay_id}/tray", { params: { path: { bay_id } } })),
    }),
  intake: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "intake"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/intake", at(id))),
    }),
  reading: (id: number, balls: string, club = "") =>
    queryOptions({
      queryKey: ["lesson", id, "reading", balls, club],
      queryFn: () =>
        ask(
          client.GET("/api/v1/lessons/{lesson_id}/reading", {
            params: { path: { lesson_id: id }, query: { balls, club } },
          }),
        ),
      placeholderData: (previous) => previous,
    }),
  ball: (id: number, shot_id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "ball", shot_id],
      queryFn: () => ask(client.GET("/api/v1/shots/{shot_id}/reading", { params: { path: { shot_id } } })),
    }),
  whatIf: (id: number, shot_id: number | null, changes: Record<string, number>) =>
    queryOptions({
      queryKey: ["lesson", id, "what-if", shot_id, changes],
      queryFn: () => ask(client.POST("/api/v1/lessons/{lesson_id}/what-if", { ...at(id), body: { shot_id, changes } })),
    }),
  draftWay: (draft_id: number) =>
    queryOptions({
      queryKey: ["draft", draft_id, "progress"],
      queryFn: () => ask(client.GET("/api/v1/drafts/{draft_id}/progress", { params: { path: { draft_id } } })),
    }),
  body: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "body"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/body", at(id))),
    }),
  checks: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "checks"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/checks", at(id))),
    }),
  cause: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "cause"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/cause", at(id))),
      placeholderData: (previous) => previous,
    }),
  why: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "why"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/why", at(id))),
    }),
  history: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "history"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/cause/history", at(id))),
    }),
  faultBall: (id: number, fault: string, variant: string) =>
    queryOptions({
      queryKey: ["lesson", id, "fault", fault, variant],
      queryFn: () =>
        ask(
          client.GET("/api/v1/lessons/{lesson_id}/cause/{fault}", {
            params: { path: { lesson_id: id, fault }, query: { variant } },
          }),
        ),
    }),
  figure: (look: string, hand: string, view = "") =>
    queryOptions({
      queryKey: ["figure", look, hand, view],
      queryFn: () => ask(client.GET("/api/v1/figures/{look}", { params: { path: { look }, query: { hand, view } } })),
      staleTime: Infinity,
    }),
  drillFigure: (drill: string, hand: string) =>
    queryOptions({
      queryKey: ["drill-figure", drill, hand],
      queryFn: () => ask(client.GET("/api/v1/drill-figures/{drill}", { params: { path: { drill }, query: { hand } } })),
      staleTime: Infinity,
    }),
  recordings: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "recordings"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/recordings", at(id))),
    }),
  recording: (id: number, recording_id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "recording", recording_id],
      queryFn: () => ask(client.GET("/api/v1/recordings/{recording_id}", { params: { path: { recording_id } } })),
      placeholderData: (previous) => previous,
    }),
  stills: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "stills"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/stills", at(id))),
    }),
  trials: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "trials"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/trials", at(id))),
    }),
  trialPlan: (id: number, primary: string, effect: number) =>
    queryOptions({
      queryKey: ["lesson", id, "trial-plan", primary, effect],
      queryFn: () =>
        ask(
          client.GET("/api/v1/lessons/{lesson_id}/trials/plan", {
            params: { path: { lesson_id: id }, query: { primary, effect } },
          }),
        ),
      placeholderData: (previous) => previous,
    }),
  mat: (token: string) =>
    queryOptions({
      queryKey: ["mat", token],
      queryFn: () => ask(client.GET("/api/v1/mat/{token}", { params: { path: { token } } })),
    }),
  schedule: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "schedule"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/schedule", at(id))),
      retry: false,
    }),
  coldTest: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "cold-test"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/cold-test", at(id))),
    }),
  versions: queryOptions({
    queryKey: ["knowledge", "versions"],
    queryFn: () => ask(client.GET("/api/v1/knowledge/versions")),
  }),
  corrections: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "corrections"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/corrections", at(id))),
    }),
  proof: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "proof"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/proof", at(id))),
    }),
  takeHome: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "take-home"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/take-home", at(id))),
    }),
};

/** The knowledge base, loaded before any screen is shown. */
export function useKnowledge(): Knowledge {
  const { data } = useQuery(queries.knowledge);
  if (!data) throw new Error("The knowledge base is loaded by the frame before any screen.");
  return data;
}

export function useSession(): Session {
  const { data } = useQuery(queries.session);
  if (!data) throw new Error("Only signed-in screens ask for the session.");
  return data;
}

/** After a deed: its consequences come over the live line; without one everything is asked for again. */
function useRefresh(lessonId: number) {
  const cache = useQueryClient();
  return () => (isFollowed(lessonId) ? Promise.resolve() : cache.invalidateQueries({ queryKey: ["lesson", lessonId] }));
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
    saveIntake: useMutation({
      mutationFn: (body: IntakeBody) => ask(client.PUT("/api/v1/lessons/{lesson_id}/intake", { params, body })),
      onSuccess: refresh,
    }),
    testBody: useMutation({
      mutationFn: (results: Record<string, string>) =>
        ask(client.PUT("/api/v1/lessons/{lesson_id}/body", { params, body: { results } })),
      onSuccess: refresh,
    }),
    grade: useMutation({
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
        ask(client.PUT("/api/v1/lessons/{lesson_id}/take-home", { params, body })),
      onSuccess: refresh,
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
      mutationFn: ({ id, marks }: { id: number; marks: Marks }) =>
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
