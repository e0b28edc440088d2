import { type FetchQueryOptions, useIsFetching, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Lesson } from "../../api/queries";
import type { Station } from "./ProgressBar";

const QUIET_MS = 1500; // whoever only passes through asks for nothing more

/** Asks what the next station will ask, one question at a time, while nothing else is asked. */
export function LookAhead({ lesson, next }: { lesson: Lesson; next: Station | undefined }) {
  const cache = useQueryClient();
  const busy = useIsFetching() > 0;
  const [answered, count] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is what lets the next question be asked
  useEffect(() => {
    const question = next?.asks?.(lesson.id).find(({ queryKey }) => !cache.getQueryState(queryKey));
    if (busy || !question) return;
    const timer = setTimeout(
      () => void cache.prefetchQuery(question as FetchQueryOptions).then(() => count((n) => n + 1)),
      QUIET_MS,
    );
    return () => clearTimeout(timer);
  }, [busy, answered, cache, next, lesson.id]);
  return null;
}
