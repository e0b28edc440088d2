import { useEffect, useRef, useState } from "react";
import { ask, client, Problems, type Schemas } from "../../api/client";
import { t } from "../../shared/format/language";
import { bearer, browserStore, Outbox, sender } from "./outbox";
import { Ring } from "./ring";

export type CameraState = Schemas["CameraView"];

const EVERY = 700; // ms between two polls
const OVERSLEPT = 5_000; // ms without a poll: the phone slept

type State = { result?: CameraState; filming: boolean; waiting: number; sent: number; problem: string; line: boolean };

/** Film the balls of the bay: poll for balls, cut them out, and let the outbox send them. */
export function useFilming(token: string, stream: MediaStream | undefined, onEnded: () => void): State {
  const [state, setState] = useState<State>({ filming: false, waiting: 0, sent: 0, problem: "", line: true });
  const ended = useRef(onEnded);
  ended.current = onEnded;

  useEffect(() => {
    if (!stream) return;
    const ring = new Ring(stream);
    const change = (next: Partial<State>) => setState((now) => ({ ...now, ...next }));
    let waiting = 0;
    let problem = "";
    const outbox = new Outbox(browserStore(), sender(token), (stand) => {
      waiting = stand.waiting;
      problem = stand.problem || problem;
      change({ ...stand, problem });
    });
    let newest: string | undefined;
    let polled = performance.now();
    let stopped = false;
    let timer: ReturnType<typeof setTimeout> | undefined;

    async function film(result: CameraState) {
      const at = performance.now() - 1000 * (result.ago ?? 0);
      const film = await ring.cut(at);
      if (!film || result.lesson === null || result.ball === null) return;
      const key = crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;
      try {
        await outbox.add({ key, lesson: result.lesson, ball: result.ball, at: Date.now(), ...film });
      } catch {
        problem = t("camera-phones-storage-full-one-film");
        change({ problem });
      }
    }

    async function poll() {
      const slept = performance.now() - polled > OVERSLEPT;
      polled = performance.now();
      if (slept) problem = t("camera-phone-went-sleep-so-balls");
      try {
        const body = { filming: ring.filming, waiting, problem };
        const result = await ask(client.POST("/api/v1/filming/here", { headers: bearer(token), body }));
        if (stopped) return;
        const ball = result.ball === null ? undefined : `${result.lesson}-${result.ball}`;
        if (result.may_film) ring.start();
        else ring.stop();
        if (ball && newest !== undefined && ball !== newest && result.may_film && !slept) void film(result);
        newest = ball ?? newest ?? "";
        change({ result, filming: ring.filming, problem, line: true });
        void outbox.flush();
      } catch (error) {
        if (error instanceof Problems && error.status === 401) return ended.current();
        change({ line: false });
      }
      if (!stopped) timer = setTimeout(poll, EVERY);
    }

    void poll();
    return () => {
      stopped = true;
      clearTimeout(timer);
      ring.stop();
      outbox.end();
    };
  }, [stream, token]);
  return state;
}
