import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Notice } from "../../shared/ui/Notice";
import { useActions, useDesk } from "../lesson/LessonContext";

/** Unassigned balls of the bay, to add to this lesson. */
export function UnassignedBalls() {
  const clock = useClock();
  const { lesson } = useDesk();
  const actions = useActions();
  const bay_id = lesson.bay_id ?? 0;
  const tray = useQuery({ ...queries.tray(lesson.id, bay_id), enabled: lesson.tray > 0 && bay_id > 0 });
  const balls = tray.data ?? [];
  const [first, last] = [balls[0], balls.at(-1)];
  if (lesson.tray === 0 || !first || !last) return null;
  return (
    <Callout as="div" tone="straw" className="flex flex-wrap items-center gap-3">
      <p className="grow">
        {t("baseline-unassigned-balls-bay-hit", {
          n: balls.length,
          first: clock.moment(first.received_at),
          last: clock.moment(last.received_at),
        })}
      </p>
      <Button
        disabled={actions.claim.isPending}
        onClick={() => actions.claim.mutate({ bay_id, shot_ids: balls.map((b) => b.id) })}
      >
        {t("baseline-add-lesson", { n: balls.length })}
      </Button>
      {actions.claim.isError && <Notice error={actions.claim.error} />}
    </Callout>
  );
}
