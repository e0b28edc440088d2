import { type FetchQueryOptions, useIsFetching, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Lesson } from "../../api/queries";
import type { Station } from "./ProgressBar";

const QUIET_MS = 1500; // whoever only passes through asks for nothing more
const STAYED_MS = 6000; // whoever stays may go to any station from here

type Props = { lesson: Lesson; stations: Station[]; here: Station };

/** Prefetch other stations' data, the next one first, one request at a time and only when idle. */
export function LookAhead({ lesson, stations, here }: Props) {
  const cache = useQueryClient();
  const busy = useIsFetching() > 0;
  const [answered, count] = useState(0);
  const stayed = useStayed(here);
  const next = stations[stations.indexOf(here) + 1];
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is what lets the next question be asked
  useEffect(() => {
    const wanted = [next, ...(stayed ? stations : [])].flatMap((station) => station?.asks(lesson.id) ?? []);
    const question = wanted.find(({ queryKey }) => !cache.getQueryState(queryKey));
    if (busy || !question) return;
    const timer = setTimeout(
      () => void cache.prefetchQuery(question as FetchQueryOptions).then(() => count((n) => n + 1)),
      QUIET_MS,
    );
    return () => clearTimeout(timer);
  }, [busy, answered, stayed, cache, next, stations, lesson.id]);
  return null;
}

/** Whether the coach has been at this station for a while. */
function useStayed(here: Station): boolean {
  const [at, stay] = useState<Station>();
  useEffect(() => {
    const timer = setTimeout(() => stay(here), STAYED_MS);
    return () => clearTimeout(timer);
  }, [here]);
  return at === here;
}
