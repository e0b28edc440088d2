import { QueryClientProvider, useIsFetching } from "@tanstack/react-query";
import { useEffect } from "react";
import { createBrowserRouter, RouterProvider } from "react-router";

import { newCache } from "../api/cache";
import { ROUTES } from "./routes";

const cache = newCache();

const router = createBrowserRouter(ROUTES);

export function App() {
  return (
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
      <AskedMark />
    </QueryClientProvider>
  );
}

/** Write the number of open requests to the page, for tests that wait until it is idle. */
function AskedMark() {
  const open = useIsFetching();
  useEffect(() => {
    document.body.dataset.asked = String(open);
  }, [open]);
  return null;
}
