import { useNavigate } from "react-router";
import { t } from "../../shared/format/language";
import { KEYS } from "../../shared/format/verdict";
import { Button } from "../../shared/ui/Button";
import { inDialog, typing, useWindowKeys } from "../../shared/ui/useWindowKeys";
import { useDesk } from "../lesson/LessonContext";

/** From a contradictory number to its column mapping, by touch or key. */
export function OpenMapping() {
  const { lesson } = useDesk();
  const navigate = useNavigate();
  const check = () => navigate(`/lessons/${lesson.id}/baseline?mapping`);
  useWindowKeys((event) => {
    if (event.key === KEYS.mapping && !event.ctrlKey && !event.metaKey && !typing(event.target) && !inDialog()) check();
  });
  return (
    <Button keyName={KEYS.mapping} className="mt-1" onClick={check}>
      {t("cause-check-column-mapping")}
    </Button>
  );
}
