/** Queries by name. */
import { queryOptions, useQuery } from "@tanstack/react-query";

import { ask, bytes, client, type Schemas } from "./client";

export type Lesson = Schemas["LessonOut"];
export type LessonRow = Schemas["LessonRow"];
export type Student = Schemas["StudentOut"];
/** A student search: words of the name, coach, seen within days. */
export type Wanted = { archived: boolean; words: string; coach?: number | undefined; days?: number | undefined };
export type RosterRow = Schemas["RosterRow"];
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

export const at = (lesson_id: number) => ({ params: { path: { lesson_id } } });

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
  roster: (wanted: Wanted) =>
    queryOptions({
      queryKey: ["students", "roster", wanted],
      queryFn: () => ask(client.GET("/api/v1/roster", { params: { query: wanted } })),
      placeholderData: (before) => before,
    }),
  student: (student_id: number) =>
    queryOptions({
      queryKey: ["students", student_id],
      queryFn: () => ask(client.GET("/api/v1/students/{student_id}", { params: { path: { student_id } } })),
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
  draftMapping: (draft_id: number) =>
    queryOptions({
      queryKey: ["draft", draft_id, "progress"],
      queryFn: () => ask(client.GET("/api/v1/drafts/{draft_id}/progress", { params: { path: { draft_id } } })),
    }),
  body: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "body"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/body", at(id))),
    }),
  films: ({ id, student_id, training }: Pick<Lesson, "id" | "student_id" | "training">) =>
    queryOptions({
      queryKey: ["lesson", id, "films"],
      queryFn: () => ask(client.GET("/api/v1/students/{student_id}/films", { params: { path: { student_id } } })),
      enabled: !training, // nobody films a made-up golfer
      staleTime: 0,
    }),
  film: (recording_id: number) =>
    queryOptions({
      queryKey: ["film", recording_id],
      queryFn: () => ask(client.GET("/api/v1/recordings/{recording_id}/film", { params: { path: { recording_id } } })),
    }),
  pictures: (recording_id: number) =>
    queryOptions({
      queryKey: ["film", recording_id, "pictures"],
      queryFn: () => bytes(`/api/v1/recordings/${recording_id}/film/pictures`),
      staleTime: Infinity,
      gcTime: 60_000, // some megabytes each
    }),
  beside: (before_id: number, now_id: number) =>
    queryOptions({
      queryKey: ["film", before_id, "beside", now_id],
      queryFn: () =>
        ask(client.GET("/api/v1/recordings/{before_id}/beside/{now_id}", { params: { path: { before_id, now_id } } })),
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
  figure: (check: string, hand: string, view = "") =>
    queryOptions({
      queryKey: ["figure", check, hand, view],
      queryFn: () => ask(client.GET("/api/v1/figures/{check}", { params: { path: { check }, query: { hand, view } } })),
      staleTime: Infinity,
    }),
  practiceSwing: (check: string, seed: number, number: number) =>
    queryOptions({
      queryKey: ["practice-swing", check, seed, number],
      queryFn: () =>
        ask(client.GET("/api/v1/eye/swings/{check}/{seed}/{number}", { params: { path: { check, seed, number } } })),
      staleTime: Infinity,
    }),
  drillFigure: (drill: string, hand: string) =>
    queryOptions({
      queryKey: ["drill-figure", drill, hand],
      queryFn: () => ask(client.GET("/api/v1/drill-figures/{drill}", { params: { path: { drill }, query: { hand } } })),
      staleTime: Infinity,
    }),
  clips: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "clips"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/clips", at(id))),
      // How far a film is looked at is no event of the lesson.
      refetchInterval: (query) => (query.state.data?.some((clip) => clip.state !== "failed") ? 1000 : false),
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
  trainings: queryOptions({ queryKey: ["trainings"], queryFn: () => ask(client.GET("/api/v1/trainings")) }),
  training: (lesson: number) =>
    queryOptions({
      queryKey: ["lesson", lesson, "training"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/training", at(lesson))),
    }),
  trainingSwing: (lesson: number, check: string, ball: number | undefined) =>
    queryOptions({
      queryKey: ["training-swing", lesson, check, ball ?? 0],
      queryFn: () =>
        ask(
          client.GET("/api/v1/lessons/{lesson_id}/training/swings/{check}", {
            params: { path: { lesson_id: lesson, check }, query: { ball } },
          }),
        ),
      staleTime: Infinity,
    }),
  eye: queryOptions({ queryKey: ["eye"], queryFn: () => ask(client.GET("/api/v1/eye")) }),
  cameras: (bay: number) =>
    queryOptions({
      queryKey: ["bays", bay, "cameras"],
      queryFn: () => ask(client.GET("/api/v1/bays/{bay_id}/cameras", { params: { path: { bay_id: bay } } })),
    }),
  bridges: (bay: number) =>
    queryOptions({
      queryKey: ["bays", bay, "bridges"],
      queryFn: () => ask(client.GET("/api/v1/bays/{bay_id}/bridges", { params: { path: { bay_id: bay } } })),
    }),
  sources: (bay: number) =>
    queryOptions({
      queryKey: ["bays", bay, "sources"],
      queryFn: () => ask(client.GET("/api/v1/bays/{bay_id}/sources", { params: { path: { bay_id: bay } } })),
    }),
  source: (id: number) =>
    queryOptions({
      queryKey: ["bays", "source", id],
      queryFn: () => ask(client.GET("/api/v1/sources/{source_id}", { params: { path: { source_id: id } } })),
      staleTime: 0,
      refetchOnWindowFocus: false,
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

/** The knowledge, loaded before any screen is shown. */
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
