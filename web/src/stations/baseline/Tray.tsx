import { useQuery } from "@tanstack/react-query";

import { queries } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../../lesson/LessonContext";

const TIME = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Balls that came before anybody listened: they wait in the bay and can be taken into this lesson. */
export function Tray() {
  const { lesson, actions } = useDesk();
  const bay_id = lesson.bay_id ?? 0;
  const tray = useQuery({ ...queries.tray(lesson.id, bay_id), enabled: lesson.tray > 0 && bay_id > 0 });
  const balls = tray.data ?? [];
  const [first, last] = [balls[0], balls.at(-1)];
  if (lesson.tray === 0 || !first || !last) return null;
  return (
    <div className="flex flex-wrap items-center gap-3 border-l-4 border-straw bg-straw-ground px-3 py-2">
      <p className="grow">
        {balls.length} {balls.length === 1 ? "ball waits" : "balls wait"} in the bay's tray, hit {TIME.format(new Date(first.received_at))} to {TIME.format(new Date(last.received_at))}.
      </p>
      <Button disabled={actions.claim.isPending} onClick={() => actions.claim.mutate({ bay_id, shot_ids: balls.map((b) => b.id) })}>
        Take {balls.length === 1 ? "it" : "them"} into this lesson
      </Button>
      {actions.claim.isError && <Notice error={actions.claim.error} />}
    </div>
  );
}
