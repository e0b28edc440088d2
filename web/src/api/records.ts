/** Queries across lessons, and of the take-home page. */
import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { ask, client, type Schemas } from "./client";

export type TakeHomePage = Schemas["TakeHomePage"];
export type PlannedDay = Schemas["PlannedDay"];
export type Home = Schemas["HomeOut"];
export type History = Schemas["History"];
export type LessonOnRecord = Schemas["LessonOnRecord"];
export type NextStep = Schemas["NextStep"];

const at = (lesson_id: number) => ({ params: { path: { lesson_id } } });

export const records = {
  history: (student_id: number) =>
    queryOptions({
      queryKey: ["student", student_id, "history"],
      queryFn: () => ask(client.GET("/api/v1/students/{student_id}/history", { params: { path: { student_id } } })),
    }),
  day: (day: string, mine: boolean) =>
    queryOptions({
      queryKey: ["day", day, mine],
      queryFn: () => ask(client.GET("/api/v1/day", { params: { query: { day, mine } } })),
      placeholderData: (previous) => previous,
      staleTime: 0,
    }),
  outcomes: queryOptions({ queryKey: ["outcomes"], queryFn: () => ask(client.GET("/api/v1/outcomes")), staleTime: 0 }),
  homeLink: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "home-link"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/home-link", at(id))),
    }),
  practice: (id: number) =>
    queryOptions({
      queryKey: ["lesson", id, "practice"],
      queryFn: () => ask(client.GET("/api/v1/lessons/{lesson_id}/practice", at(id))),
      retry: false,
    }),
  home: (token: string, today: string) =>
    queryOptions({
      queryKey: ["home", token],
      queryFn: () => ask(client.GET("/api/v1/home/{token}", { params: { path: { token }, query: { today } } })),
      networkMode: "always",
      staleTime: 0,
    }),
};

/** Changes to a lesson's plan and its link. */
export function usePlanActions(lessonId: number) {
  const cache = useQueryClient();
  const refresh = () => cache.invalidateQueries({ queryKey: ["lesson", lessonId] });
  const params = at(lessonId).params;
  return {
    moveDay: useMutation({
      mutationFn: ({ planned, to }: { planned: string; to: string }) =>
        ask(
          client.PUT("/api/v1/lessons/{lesson_id}/schedule/{planned}", {
            params: { path: { lesson_id: lessonId, planned } },
            body: { to },
          }),
        ),
      onSettled: refresh,
    }),
    makeLink: useMutation({
      mutationFn: () => ask(client.POST("/api/v1/lessons/{lesson_id}/home-link", { params })),
      onSuccess: refresh,
    }),
    endLink: useMutation({
      mutationFn: () => ask(client.DELETE("/api/v1/lessons/{lesson_id}/home-link", { params })),
      onSuccess: refresh,
    }),
    resume: useMutation({
      mutationFn: () => ask(client.DELETE("/api/v1/lessons/{lesson_id}/practice/pause", { params })),
      onSuccess: refresh,
    }),
  };
}
