import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { useDesk } from "./LessonContext";

/** Students who share the bay: one touch changes who hits. */
export function Turns() {
  const { lesson } = useDesk();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const turn = useMutation({
    mutationFn: (lesson_id: number) =>
      ask(
        client.PUT("/api/v1/lessons/{lesson_id}/bay", {
          params: { path: { lesson_id } },
          body: { bay_id: lesson.bay_id },
        }),
      ),
    onSuccess: async (_, lesson_id) => {
      await cache.invalidateQueries({ queryKey: ["bays"] });
      await navigate(`/lessons/${lesson_id}/${lesson.station}`);
    },
  });
  if (lesson.turns.length < 2) return null;
  return (
    <div role="group" aria-label={t("lesson-hitting-now")} className="flex items-center gap-1">
      {lesson.turns.map((one) => (
        <button
          key={one.lesson_id}
          type="button"
          aria-pressed={one.hitting}
          onClick={() => turn.mutate(one.lesson_id)}
          className="min-h-11 rounded-sm border border-rule px-3 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
        >
          {one.student_name.split(" ")[0]}
          {one.hitting && t("lesson-hits")}
        </button>
      ))}
    </div>
  );
}
