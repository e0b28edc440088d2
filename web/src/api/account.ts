/** Queries and mutations of the coach's own account. */
import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { ask, client, type Schemas } from "./client";
import { makePasskey } from "./passkeys";
import { queries } from "./queries";

export type Account = Schemas["AccountOut"];
export type OwnSession = Schemas["OwnSessionOut"];
export type SecondStep = Schemas["SecondStepOut"];

export const account = {
  has: queryOptions({ queryKey: ["account", "has"], queryFn: () => ask(client.GET("/api/v1/session/account")) }),
  sessions: queryOptions({ queryKey: ["account", "list"], queryFn: () => ask(client.GET("/api/v1/session/list")) }),
  notices: queryOptions({
    queryKey: ["account", "notices"],
    queryFn: () => ask(client.GET("/api/v1/session/notices")),
  }),
};

/** The state after the right password and before the second factor. */
export const wantsMore = (result: Schemas["SessionOut"] | SecondStep): result is SecondStep => "ways" in result;

/** The settings of the signed-in coach; texts use their units and language, so everything is fetched again. */
export function useOwnSettings() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["SettingsIn"]) => ask(client.PATCH("/api/v1/session", { body })),
    onSuccess: (session, body) => {
      cache.setQueryData(queries.session.queryKey, session);
      if (body.units || body.language) void cache.invalidateQueries();
    },
  });
}

/** Changes to the coach's own account; all of it is fetched again afterwards. */
export function useAccountActions() {
  const cache = useQueryClient();
  const onSuccess = async () => {
    await Promise.all([cache.invalidateQueries({ queryKey: ["account"] }), cache.invalidateQueries(queries.session)]);
  };
  return {
    beginApp: useMutation({ mutationFn: () => ask(client.POST("/api/v1/session/app")) }),
    addApp: useMutation({
      mutationFn: (code: string) => ask(client.PUT("/api/v1/session/app", { body: { code } })),
      onSuccess,
    }),
    removeApp: useMutation({ mutationFn: () => ask(client.DELETE("/api/v1/session/app")), onSuccess }),
    newCodes: useMutation({ mutationFn: () => ask(client.POST("/api/v1/session/codes")), onSuccess }),
    addPasskey: useMutation({
      mutationFn: async (name: string) => {
        const { options } = await ask(client.POST("/api/v1/session/passkeys/challenge"));
        const credential = await makePasskey(options);
        return ask(client.POST("/api/v1/session/passkeys", { body: { name, credential } }));
      },
      onSuccess,
    }),
    removePasskey: useMutation({
      mutationFn: (passkey_id: number) =>
        ask(client.DELETE("/api/v1/session/passkeys/{passkey_id}", { params: { path: { passkey_id } } })),
      onSuccess,
    }),
    askForAddress: useMutation({
      mutationFn: (address: string) => ask(client.PUT("/api/v1/session/email", { body: { address } })),
      onSuccess,
    }),
    forgetAddress: useMutation({ mutationFn: () => ask(client.DELETE("/api/v1/session/email")), onSuccess }),
    endSession: useMutation({
      mutationFn: (session_id: string) =>
        ask(client.DELETE("/api/v1/session/list/{session_id}", { params: { path: { session_id } } })),
      onSuccess,
    }),
    endOthers: useMutation({ mutationFn: () => ask(client.DELETE("/api/v1/session/list")), onSuccess }),
    see: useMutation({ mutationFn: () => ask(client.POST("/api/v1/session/notices/seen")), onSuccess }),
  };
}
