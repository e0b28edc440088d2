import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ask, client } from "../../api/client";

/** Return a function that starts a student's lesson and opens it at Ask. */
export function useBeginLesson() {
  const navigate = useNavigate();
  const cache = useQueryClient();
  return async (studentId: number) => {
    const lesson = await ask(client.POST("/api/v1/lessons", { body: { student_id: studentId, club: "7i" } }));
    await Promise.all(["lessons", "students"].map((key) => cache.invalidateQueries({ queryKey: [key] })));
    await navigate(`/lessons/${lesson.id}/ask`);
  };
}
