/** The live connection of a lesson: catches up after a reconnect, without loss or duplicates. */
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import type { Schemas } from "./client";
import { setFollowed } from "./lines";
import { queries, type Shot } from "./queries";

export type LineState = "connecting" | "live" | "lost";
/** Logged events have a cursor; a proof has none because it is recomputed for every ball. */
export type LiveEvent =
  | Schemas["BallMessage"]
  | Schemas["ChangeMessage"]
  | Schemas["ProofMessage"]
  | Schemas["ResyncMessage"];

const FIRST_WAIT = 400;
const LONGEST_WAIT = 8000;
/** Close codes of the server: the session has ended, or the lesson belongs to someone else. */
const OVER = [4401, 4404];
const REST_AFTER = 400;
const CHANGE_PAUSE = 30;

/** Changes that affect no number: only these are fetched again; after any other, everything on screen is. */
const CHANGES: Partial<Record<Schemas["Aspect"], string[]>> = {
  bay: ["lesson", "tray"],
  block: ["lesson"],
  refused: ["lesson"],
  setup: ["lesson", "setups"],
  station: ["lesson"],
};
/** Marks that affect only the ball's verdict. */
const MARKS: Record<string, string[]> = { movement: [], mark_basis: [], note: [], intent: ["trials"] };

/** Insert a ball by its number, or replace it. */
export function withShot(shots: Shot[] | undefined, shot: Shot): Shot[] {
  const others = (shots ?? []).filter((s) => s.id !== shot.id);
  const place = others.findLastIndex((s) => s.number < shot.number) + 1;
  return [...others.slice(0, place), shot, ...others.slice(place)];
}

/** A connection that reconnects on its own; `stop` closes it. `onOver` is called when the server closed it for good. */
export function follow(
  url: (after: number) => string,
  start: number,
  onEvents: (events: LiveEvent[]) => void,
  onState: (state: LineState) => void,
  onOver: () => void = () => {},
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
      if (event.kind === "resync") {
        cursor = event.cursor;
        onEvents([event]);
        return;
      }
      const place = "cursor" in event ? event.cursor : null;
      if (typeof place === "number") {
        if (place <= cursor) return;
        cursor = place;
      }
      onEvents([event]);
    };
    socket.onclose = (closed) => {
      if (stopped) return;
      onState("lost");
      if (OVER.includes(closed.code)) {
        onOver();
        return;
      }
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
    if (event.kind === "proof") cache.setQueryData(queries.proof(lessonId).queryKey, event.data);
    if (event.kind === "ball") {
      const { marked: _, ...shot } = event.data;
      cache.setQueryData(queries.shots(lessonId).queryKey, (old) => withShot(old, shot));
    }
  }
}

/** Return what to fetch again after some events; all balls only when many changed at once. */
export function stale(events: LiveEvent[]): (name: string) => boolean {
  if (events.some((e) => e.kind === "resync")) return () => true;
  const changed = events.flatMap((e) => (e.kind === "lesson" ? [e.data.changed] : []));
  const marks = events.flatMap((e) => (e.kind === "ball" ? (e.data.marked ?? ["a new ball"]) : []));
  const everything = marks.some((m) => !(m in MARKS)) || changed.some((c) => !(c in CHANGES));
  const named = new Set([...changed.flatMap((c) => CHANGES[c] ?? []), ...marks.flatMap((m) => MARKS[m] ?? [])]);
  return (name) => {
    if (name === "shots") return changed.includes("shots");
    // A proof comes by itself after a ball; it rests on what the other actions change.
    if (name === "proof") return changed.some((c) => !(c in CHANGES));
    return everything || named.has(name);
  };
}

function refresh(cache: QueryClient, lessonId: number, events: LiveEvent[]) {
  const wanted = stale(events);
  void cache.invalidateQueries({
    queryKey: ["lesson", lessonId],
    predicate: (query) => wanted(String(query.queryKey[2])),
  });
}

/** Keep a lesson's screens up to date. */
export function useLive(lessonId: number, cursor: number | undefined): LineState {
  const cache = useQueryClient();
  const [state, setState] = useState<LineState>("connecting");
  const ready = cursor !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the cursor of the first load starts the line; later ones come over the line itself
  useEffect(() => {
    if (!ready) return;
    const scheme = location.protocol === "https:" ? "wss" : "ws";
    const url = (after: number) => `${scheme}://${location.host}/ws/lessons/${lessonId}?after=${after}`;
    let waiting: LiveEvent[] = [];
    let soon: ReturnType<typeof setTimeout> | undefined;
    let due = Infinity;
    function restWithin(pause: number) {
      const at = Date.now() + pause;
      if (at >= due) return;
      clearTimeout(soon);
      due = at;
      soon = setTimeout(() => {
        const events = waiting;
        waiting = [];
        due = Infinity;
        refresh(cache, lessonId, events);
      }, pause);
    }
    function onEvents(events: LiveEvent[]) {
      take(cache, lessonId, events);
      const result = events.filter((e) => e.kind !== "proof");
      if (result.length === 0) return;
      waiting.push(...result);
      // The verdict comes with the ball, and the rest a moment later; the effects of a change take a moment.
      restWithin(result.some((e) => e.kind !== "ball") ? CHANGE_PAUSE : REST_AFTER);
    }
    function onState(next: LineState) {
      setFollowed(lessonId, next === "live");
      setState(next);
    }
    // Who is not signed in any more is asked who they are.
    const onOver = () => void cache.invalidateQueries({ queryKey: queries.session.queryKey });
    const stop = follow(url, cursor, onEvents, onState, onOver);
    return () => {
      clearTimeout(soon);
      setFollowed(lessonId, false);
      stop();
    };
  }, [lessonId, ready, cache]);
  return state;
}
