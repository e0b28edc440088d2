/** The query cache, and what happens when the server refuses or fails. */
import { MutationCache, notifyManager, QueryCache, QueryClient } from "@tanstack/react-query";

import { Problems, passes } from "./client";
import { queries } from "./queries";

const TRIES = 5;

// A button whose action is under way is disabled before the second click of a double click arrives.
notifyManager.setScheduler(queueMicrotask);

export function newCache(): QueryClient {
  // Whoever is result to sign in first is asked who they are, whatever they were doing. What is known of them stays until
  // the answer: screens that rest on it are still there.
  function onRefused(error: Error) {
    const { queryKey } = queries.session;
    const known = cache.getQueryData(queryKey) !== undefined;
    if (known && error instanceof Problems && error.status === 401) void cache.invalidateQueries({ queryKey });
  }
  const cache: QueryClient = new QueryClient({
    queryCache: new QueryCache({
      onError: (error, query) => {
        if (query.queryKey[0] !== queries.session.queryKey[0]) onRefused(error);
      },
    }),
    mutationCache: new MutationCache({ onError: onRefused }),
    defaultOptions: {
      queries: {
        staleTime: 30_000,
        refetchOnWindowFocus: false,
        // What the server refused stays refused.
        retry: (count, error) => passes(error) && count < TRIES,
      },
    },
  });
  return cache;
}
