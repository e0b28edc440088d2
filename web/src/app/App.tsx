import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { Problems } from "../api/client";
import { AskPage } from "../ask/AskPage";
import { BaysPage } from "../bays/BaysPage";
import { ExplainPage } from "../explain/ExplainPage";
import { KnowledgePage } from "../knowledge/KnowledgePage";
import { LessonPage } from "../lesson/LessonPage";
import { MatPage } from "../mat/MatPage";
import { DayPage } from "../records/DayPage";
import { OutcomesPage } from "../records/OutcomesPage";
import { StudentPage } from "../records/StudentPage";
import { StudentsPage } from "../students/StudentsPage";
import { Frame } from "./Frame";

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
  { path: "/home/:token", lazy: async () => ({ Component: (await import("../home/HomePage")).HomePage }) },
  { path: "/mat", element: <MatPage /> },
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
      { path: "/lessons/:lessonId/:station?", element: <LessonPage /> },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

export function App() {
  return (
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  );
}
