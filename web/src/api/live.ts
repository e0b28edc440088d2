/** The live channel of a lesson: catches up after a lost line, loses nothing, doubles nothing. */
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { calm } from "../domain/calm";
import { queries, type Shot } from "./queries";

export type LineState = "connecting" | "live" | "lost";
type LiveEvent = { cursor: number; kind: string; data: Record<string, unknown> };

const FIRST_WAIT = 400;
const LONGEST_WAIT = 8000;
const NOT_YOURS = 4404;
const REFRESH_PAUSE = 250;

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
      if (!(event.cursor > cursor)) return;
      cursor = event.cursor;
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
    if (event.kind !== "ball") continue;
    const shot = event.data as unknown as Shot;
    cache.setQueryData(queries.shots(lessonId).queryKey, (old) => withShot(old, shot));
  }
}

/** Everything the balls speak of is computed by the server: ask again, for the balls themselves only when many changed. */
function refresh(cache: QueryClient, lessonId: number, shotsToo: boolean) {
  void cache.invalidateQueries({ queryKey: ["lesson", lessonId], predicate: (query) => shotsToo || query.queryKey[2] !== "shots" });
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
    const refreshed = calm(() => {
      refresh(cache, lessonId, shotsToo);
      shotsToo = false;
    }, REFRESH_PAUSE);
    function onEvents(events: LiveEvent[]) {
      take(cache, lessonId, events);
      shotsToo ||= events.some((e) => e.kind === "lesson" && e.data.changed === "shots");
      refreshed();
    }
    return follow(url, cursor, onEvents, setState);
    // The cursor of the first load starts the line; later ones come over the line itself.
  }, [lessonId, ready, cache]);
  return state;
}
