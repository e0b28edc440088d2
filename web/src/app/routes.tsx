import type { ComponentType } from "react";
import { Navigate, type RouteObject } from "react-router";

import { StudentsPage } from "../features/students/StudentsPage";
import { Frame } from "./Frame";
import { NotLoaded } from "./NotLoaded";

/** A page whose script is loaded on demand. */
function page(path: string, load: () => Promise<ComponentType>): RouteObject {
  return { path, lazy: async () => ({ Component: await load() }) };
}

/** Also called after sign-in, so that a lesson opens without waiting for its script. */
export const loadLesson = async () => (await import("./LessonRoute")).LessonRoute;

/** All routes. */
export const ROUTES: RouteObject[] = [
  {
    errorElement: <NotLoaded />,
    children: [
      page("/ask/:token", async () => (await import("../features/intake/AskPage")).AskPage),
      page("/home/:token", async () => (await import("../features/home/HomePage")).HomePage),
      page("/mat", async () => (await import("../features/display/ScreenPage")).ScreenPage),
      page("/camera", async () => (await import("../features/camera/CameraPage")).CameraPage),
      page("/join/:token", async () => (await import("../features/auth/JoinPage")).JoinPage),
      page("/password/:token", async () => (await import("../features/auth/PasswordPage")).PasswordPage),
      page("/email/:token", async () => (await import("../features/auth/EmailPage")).EmailPage),
      {
        element: <Frame ready={loadLesson} />,
        children: [
          { path: "/", element: <StudentsPage /> },
          page("/day", async () => (await import("../features/reports/DayPage")).DayPage),
          page("/students/:studentId", async () => (await import("../features/reports/StudentPage")).StudentPage),
          page("/outcomes", async () => (await import("../features/reports/OutcomesPage")).OutcomesPage),
          page("/bays", async () => (await import("../features/bays/BaysPage")).BaysPage),
          page("/knowledge", async () => (await import("../features/knowledge/KnowledgePage")).KnowledgePage),
          page("/academy", async () => (await import("../features/academy/AcademyPage")).AcademyPage),
          page("/me", async () => (await import("../features/me/MePage")).MePage),
          page("/eye", async () => (await import("../features/me/EyePage")).EyePage),
          page("/train", async () => (await import("../features/training/TrainPage")).TrainPage),
          page(
            "/lessons/:lessonId/explain",
            async () => (await import("../features/diagnosis/ExplainPage")).ExplainPage,
          ),
          page("/lessons/:lessonId/films", async () => (await import("../features/films/FilmsPage")).FilmsPage),
          page("/lessons/:lessonId/:station?", loadLesson),
          { path: "*", element: <Navigate to="/" replace /> },
        ],
      },
    ],
  },
];
