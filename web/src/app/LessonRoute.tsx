import { LessonPage } from "../features/lesson/LessonPage";
import { STATIONS } from "./stations";

/** A lesson with all its stations, the largest part, loaded separately. */
export const LessonRoute = () => <LessonPage stations={STATIONS} />;
