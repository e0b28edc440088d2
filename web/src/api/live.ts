/** The live channel of a lesson: catches up after a lost line, loses nothing, doubles nothing. */
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { calm } from "../domain/calm";
import type { Schemas } from "./client";
import { queries, type Shot } from "./queries";

export type LineState = "connecting" | "live" | "lost";
/** Logged events have a cursor; a proof has none: it is worked out anew for every ball. */
type LiveEvent = { cursor?: number; kind: string; data: Record<string, unknown> };

const FIRST_WAIT = 400;
const LONGEST_WAIT = 8000;
const NOT_YOURS = 4404;
const REFRESH_PAUSE = 250;
const REST_AFTER = 400;

/** Puts a ball into the list, in the order of its number; a ball that is there already is replaced. */
export function withShot(shots: Shot[] | undefined, shot: Shot): Shot[] {
  const others = (shots ?? []).filter((s) => s.id !== shot.id);
  const place = others.findLastIndex((s) => s.number < shot.number) + 1;
  return [...others.slice(0, place), shot, ...others.slice(place)];
}

/** One connection that keeps itself alive; `stop` ends it. */
export function follow(
  url: (after: number) => string,
  start: number,
  onEvents: (events: LiveEvent[]) => void,
  onState: (state: LineState) => void,
): () => void {
  let cursor = start;
  let wait = FIRST_WAIT;
  let stopped = false;
  let socket: WebSocket | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function connect() {
    onState(wait === FIRST_WAIT ? "connecting" : "lost");
    socket = new WebSocket(url(cursor));
    socket.onopen = () => {
      wait = FIRST_WAIT;
      onState("live");
    };
    socket.onmessage = (message) => {
      const event = JSON.parse(message.data as string) as LiveEvent;
      if (event.cursor !== undefined) {
        if (event.cursor <= cursor) return;
        cursor = event.cursor;
      }
      onEvents([event]);
    };
    socket.onclose = (closed) => {
      if (stopped || closed.code === NOT_YOURS) return;
      onState("lost");
      timer = setTimeout(connect, wait);
      wait = Math.min(LONGEST_WAIT, wait * 2);
    };
  }

  connect();
  return () => {
    stopped = true;
    clearTimeout(timer);
    socket?.close();
  };
}

function take(cache: QueryClient, lessonId: number, events: LiveEvent[]) {
  for (const event of events) {
    if (event.kind === "proof") cache.setQueryData(queries.proof(lessonId).queryKey, event.data as unknown as Schemas["ProofOut"]);
    if (event.kind !== "ball") continue;
    const shot = event.data as unknown as Shot;
    cache.setQueryData(queries.shots(lessonId).queryKey, (old) => withShot(old, shot));
  }
}

/** Everything the balls speak of is computed by the server: ask again, for the balls themselves only when many changed. */
function refresh(cache: QueryClient, lessonId: number, shotsToo: boolean) {
  const wanted = (name: unknown) => name !== "proof" && (shotsToo || name !== "shots");
  void cache.invalidateQueries({ queryKey: ["lesson", lessonId], predicate: (query) => wanted(query.queryKey[2]) });
}

/** Keeps a lesson's screens in step with the server. */
export function useLive(lessonId: number, cursor: number | undefined): LineState {
  const cache = useQueryClient();
  const [state, setState] = useState<LineState>("connecting");
  const ready = cursor !== undefined;
  useEffect(() => {
    if (!ready) return;
    const scheme = location.protocol === "https:" ? "wss" : "ws";
    const url = (after: number) => `${scheme}://${location.host}/ws/lessons/${lessonId}?after=${after}`;
    let shotsToo = false;
    let soon: ReturnType<typeof setTimeout> | undefined;
    // The verdict is what everybody waits for: it comes or is asked for at once, everything else a moment later.
    const judged = calm(() => void cache.invalidateQueries({ queryKey: queries.proof(lessonId).queryKey }), REFRESH_PAUSE);
    function restSoon() {
      soon ??= setTimeout(() => {
        soon = undefined;
        refresh(cache, lessonId, shotsToo);
        shotsToo = false;
      }, REST_AFTER);
    }
    function onEvents(events: LiveEvent[]) {
      take(cache, lessonId, events);
      if (events.every((e) => e.kind === "proof")) return;
      shotsToo ||= events.some((e) => e.kind === "lesson" && e.data.changed === "shots");
      // The proof comes by itself after a ball; after anything else it is asked for.
      if (events.some((e) => e.kind !== "ball")) judged();
      restSoon();
    }
    const stop = follow(url, cursor, onEvents, setState);
    return () => {
      clearTimeout(soon);
      stop();
    };
    // The cursor of the first load starts the line; later ones come over the line itself.
  }, [lessonId, ready, cache]);
  return state;
}
