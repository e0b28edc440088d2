import { QueryClient, QueryClientProvider, useIsFetching } from "@tanstack/react-query";
import { useEffect } from "react";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { Problems } from "../api/client";
import { BaysPage } from "../features/bays/BaysPage";
import { ExplainPage } from "../features/diagnosis/ExplainPage";
import { ScreenPage } from "../features/display/ScreenPage";
import { AskPage } from "../features/intake/AskPage";
import { KnowledgePage } from "../features/knowledge/KnowledgePage";
import { LessonPage } from "../features/lesson/LessonPage";
import { DayPage } from "../features/reports/DayPage";
import { OutcomesPage } from "../features/reports/OutcomesPage";
import { StudentPage } from "../features/reports/StudentPage";
import { StudentsPage } from "../features/students/StudentsPage";
import { Frame } from "./Frame";
import { STATIONS } from "./stations";

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

const router = createBrowserRouter([
  { path: "/ask/:token", element: <AskPage /> },
  { path: "/home/:token", lazy: async () => ({ Component: (await import("../features/home/HomePage")).HomePage }) },
  { path: "/mat", element: <ScreenPage /> },
  {
    element: <Frame />,
    children: [
      { path: "/", element: <StudentsPage /> },
      { path: "/day", element: <DayPage /> },
      { path: "/students/:studentId", element: <StudentPage /> },
      { path: "/outcomes", element: <OutcomesPage /> },
      { path: "/bays", element: <BaysPage /> },
      { path: "/knowledge", element: <KnowledgePage /> },
      { path: "/lessons/:lessonId/explain", element: <ExplainPage /> },
      { path: "/lessons/:lessonId/:station?", element: <LessonPage stations={STATIONS} /> },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

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
