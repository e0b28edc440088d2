/** Queries and mutations of an academy's team. */
import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { ask, client, type Schemas } from "./client";
import { queries } from "./queries";

export type Coach = Schemas["CoachOut"];
export type Invitation = Schemas["InvitationOut"];
export type Academy = Schemas["AcademyOut"];
type AuditLine = Schemas["AuditOut"];

/** Lines per page of the server. */
const AUDIT_PAGE = 25;

export const people = {
  colleagues: queryOptions({
    queryKey: ["people", "colleagues"],
    queryFn: () => ask(client.GET("/api/v1/colleagues")),
  }),
  coaches: queryOptions({ queryKey: ["people", "coaches"], queryFn: () => ask(client.GET("/api/v1/coaches")) }),
  invitations: queryOptions({
    queryKey: ["people", "invitations"],
    queryFn: () => ask(client.GET("/api/v1/invitations")),
  }),
  audit: (containing: string, reading: boolean) =>
    infiniteQueryOptions({
      queryKey: ["people", "audit", containing, reading],
      queryFn: ({ pageParam }) =>
        ask(client.GET("/api/v1/audit", { params: { query: { ...pageParam, containing, reading } } })),
      initialPageParam: {} as { before?: number },
      getNextPageParam: (page: AuditLine[]) => {
        const last = page.length === AUDIT_PAGE ? page.at(-1) : undefined;
        return last && { before: last.id };
      },
    }),
  invitation: (token: string) =>
    queryOptions({
      queryKey: ["join", token],
      queryFn: () => ask(client.GET("/api/v1/join/{token}", { params: { path: { token } } })),
      retry: false,
    }),
  lost: (token: string) =>
    queryOptions({
      queryKey: ["password", token],
      queryFn: () => ask(client.GET("/api/v1/password/{token}", { params: { path: { token } } })),
      retry: false,
    }),
};

/** Changes by the head coach to the team; all of it is fetched again afterwards. */
export function usePeopleActions() {
  const cache = useQueryClient();
  const onSuccess = () => cache.invalidateQueries({ queryKey: ["people"] });
  return {
    change: useMutation({
      mutationFn: ({ id, ...body }: { id: number } & Schemas["CoachChange"]) =>
        ask(client.PATCH("/api/v1/coaches/{coach_id}", { params: { path: { coach_id: id } }, body })),
      onSuccess: () => Promise.all([onSuccess(), cache.invalidateQueries(queries.session)]),
    }),
    passwordLink: useMutation({
      mutationFn: (coach_id: number) =>
        ask(client.POST("/api/v1/coaches/{coach_id}/password-link", { params: { path: { coach_id } } })),
      onSuccess,
    }),
    liftFactors: useMutation({
      mutationFn: (coach_id: number) =>
        ask(client.DELETE("/api/v1/coaches/{coach_id}/factors", { params: { path: { coach_id } } })),
      onSuccess,
    }),
    signOut: useMutation({
      mutationFn: (coach_id: number) =>
        ask(client.DELETE("/api/v1/coaches/{coach_id}/sessions", { params: { path: { coach_id } } })),
      onSuccess,
    }),
    invite: useMutation({
      mutationFn: (body: Schemas["InvitationIn"]) => ask(client.POST("/api/v1/invitations", { body })),
      onSuccess,
    }),
    takeBack: useMutation({
      mutationFn: (invitation_id: number) =>
        ask(client.DELETE("/api/v1/invitations/{invitation_id}", { params: { path: { invitation_id } } })),
      onSuccess,
    }),
    changeAcademy: useMutation({
      mutationFn: (body: Schemas["AcademyIn"]) => ask(client.PATCH("/api/v1/academy", { body })),
      onSuccess: () => cache.invalidateQueries(),
    }),
    tryMail: useMutation({
      mutationFn: (to: string) => ask(client.POST("/api/v1/academy/mail", { body: { to } })),
    }),
  };
}
