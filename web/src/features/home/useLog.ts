import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { ask, client, Problems } from "../../api/client";
import { localDay } from "../../shared/format/days";
import { type Log, neverTaken, readLog, refuse, sent, wake } from "./practice";

const AGAIN_MS = 8000;

/** The log of this page, saved on the phone after every change and sent when online. */
export function useLog(token: string) {
  const cache = useQueryClient();
  const name = `instavis-practice-${token.slice(0, 16)}`;
  const [log, setLog] = useState<Log>(() => wake(readLog(localStorage.getItem(name)), new Date()));
  const [online, setOnline] = useState(navigator.onLine);
  const latest = useRef(log);
  const sending = useRef(false);

  const change = useCallback(
    (step: (log: Log) => Log) => {
      latest.current = step(latest.current);
      localStorage.setItem(name, JSON.stringify(latest.current));
      setLog(latest.current);
    },
    [name],
  );

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      while (latest.current.queue[0]) {
        const entry = latest.current.queue[0];
        try {
          const result = await ask(
            client.POST("/api/v1/home/{token}/practice", {
              params: { path: { token }, query: { today: localDay(new Date()) } },
              body: { sent_at: new Date().toISOString(), entries: [entry] },
            }),
          );
          change((l) => sent(l, entry.entry_id));
          cache.setQueryData(["home", token], result.home);
          setOnline(true);
        } catch (error) {
          if (error instanceof Problems && neverTaken(error.status, error.list.length)) {
            change((l) => refuse(l, entry.entry_id, error.message));
            continue;
          }
          setOnline(false);
          return;
        }
      }
    } finally {
      sending.current = false;
    }
  }, [token, change, cache]);

  const waiting = log.queue.length;
  useEffect(() => {
    if (waiting > 0) void send();
    const again = setInterval(() => void send(), AGAIN_MS);
    const up = () => {
      setOnline(true);
      void send();
    };
    const down = () => setOnline(false);
    addEventListener("online", up);
    addEventListener("offline", down);
    return () => {
      clearInterval(again);
      removeEventListener("online", up);
      removeEventListener("offline", down);
    };
  }, [waiting, send]);

  return { log, change, online };
}
