import { QueryClient, QueryClientProvider, useIsFetching } from "@tanstack/react-query";
import { useEffect } from "react";
import { createBrowserRouter, RouterProvider } from "react-router";

import { Problems } from "../api/client";
import { ROUTES } from "./routes";

const cache = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      // What the server refused stays refused; a lost line is tried again.
      retry: (count, error) => error instanceof Problems && error.status === 0 && count < 5,
    },
  },
});

const router = createBrowserRouter(ROUTES);

export function App() {
  return (
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
      <AskedMark />
    </QueryClientProvider>
  );
}

/** Writes on the page how many questions to the server are open, for whoever has to wait until it is whole. */
function AskedMark() {
  const open = useIsFetching();
  useEffect(() => {
    document.body.dataset.asked = String(open);
  }, [open]);
  return null;
}
