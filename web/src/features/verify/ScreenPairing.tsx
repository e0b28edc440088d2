import { useState } from "react";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";
import { useActions } from "../lesson/LessonContext";

/** A code for a second screen, and a button to disconnect all. */
export function ScreenPairing() {
  const clock = useClock();
  const actions = useActions();
  const [open, setOpen] = useState(false);
  const { offerScreen, endScreens } = actions;
  return (
    <>
      <Button
        onClick={() => {
          endScreens.reset();
          offerScreen.mutate();
          setOpen(true);
        }}
      >
        {t("prove-students-screen")}
      </Button>
      <Sheet
        title={t("prove-student-screen")}
        result="It shows the move, the answer and how many more. It can change nothing."
        open={open}
        onClose={() => setOpen(false)}
      >
        {offerScreen.isError && <Notice error={offerScreen.error} />}
        {endScreens.isSuccess ? (
          <p role="status">{t("prove-all-screens-lesson-disconnected")}</p>
        ) : (
          offerScreen.data && (
            <div role="status">
              <p>
                {t("prove-other-screen-open")} <strong>{`${location.host}/mat`}</strong> {t("common-enter")}
              </p>
              <p className="my-2 text-6xl font-bold tracking-[0.2em]">
                <code className="font-sans">{offerScreen.data.code}</code>
              </p>
              <p className="text-soft">
                {t("prove-valid-until-one-screen", { time: clock.time(offerScreen.data.until) })}
              </p>
            </div>
          )
        )}
        <div className="mt-4 flex gap-2">
          <Button onClick={() => endScreens.mutate()}>{t("prove-disconnect-all-screens")}</Button>
          <Button onClick={() => setOpen(false)}>{t("common-done")}</Button>
        </div>
      </Sheet>
    </>
  );
}
