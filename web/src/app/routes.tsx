import { Navigate, type RouteObject } from "react-router";

import { AcademyPage } from "../features/academy/AcademyPage";
import { BaysPage } from "../features/bays/BaysPage";
import { ExplainPage } from "../features/diagnosis/ExplainPage";
import { ScreenPage } from "../features/display/ScreenPage";
import { EmailPage } from "../features/doors/EmailPage";
import { JoinPage } from "../features/doors/JoinPage";
import { PasswordPage } from "../features/doors/PasswordPage";
import { AskPage } from "../features/intake/AskPage";
import { KnowledgePage } from "../features/knowledge/KnowledgePage";
import { LessonPage } from "../features/lesson/LessonPage";
import { MePage } from "../features/me/MePage";
import { DayPage } from "../features/reports/DayPage";
import { OutcomesPage } from "../features/reports/OutcomesPage";
import { StudentPage } from "../features/reports/StudentPage";
import { StudentsPage } from "../features/students/StudentsPage";
import { Frame } from "./Frame";
import { STATIONS } from "./stations";

/** What every address shows. */
export const ROUTES: RouteObject[] = [
  { path: "/ask/:token", element: <AskPage /> },
  { path: "/home/:token", lazy: async () => ({ Component: (await import("../features/home/HomePage")).HomePage }) },
  { path: "/mat", element: <ScreenPage /> },
  { path: "/camera", lazy: async () => ({ Component: (await import("../features/camera/CameraPage")).CameraPage }) },
  { path: "/join/:token", element: <JoinPage /> },
  { path: "/password/:token", element: <PasswordPage /> },
  { path: "/email/:token", element: <EmailPage /> },
  {
    element: <Frame />,
    children: [
      { path: "/", element: <StudentsPage /> },
      { path: "/day", element: <DayPage /> },
      { path: "/students/:studentId", element: <StudentPage /> },
      { path: "/outcomes", element: <OutcomesPage /> },
      { path: "/bays", element: <BaysPage /> },
      { path: "/knowledge", element: <KnowledgePage /> },
      { path: "/academy", element: <AcademyPage /> },
      { path: "/me", element: <MePage /> },
      { path: "/eye", lazy: async () => ({ Component: (await import("../features/me/EyePage")).EyePage }) },
      {
        path: "/train",
        lazy: async () => ({ Component: (await import("../features/training/TrainPage")).TrainPage }),
      },
      { path: "/lessons/:lessonId/explain", element: <ExplainPage /> },
      {
        path: "/lessons/:lessonId/films",
        lazy: async () => ({ Component: (await import("../features/films/FilmsPage")).FilmsPage }),
      },
      { path: "/lessons/:lessonId/:station?", element: <LessonPage stations={STATIONS} /> },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
];
