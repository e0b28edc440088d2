import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { inside } from "../../shared/format/language";
import { t } from "../format/language";
import { Button } from "./Button";
import { Notice } from "./Notice";

const REFRESH = 3000;
const VIEWS: Record<string, string> = { "face-on": "common-front", "down-the-line": "common-behind-hands" };

/** The cameras of a bay and their state; add one by code. */
export function Cameras({ bay, name }: { bay: number; name: string }) {
  const clock = useClock();
  const cache = useQueryClient();
  const cameras = useQuery({ ...queries.cameras(bay), refetchInterval: REFRESH });
  const again = () => cache.invalidateQueries({ queryKey: queries.cameras(bay).queryKey });
  const offer = useMutation({
    mutationFn: (view: string) =>
      ask(client.POST("/api/v1/bays/{bay_id}/cameras", { params: { path: { bay_id: bay } }, body: { view } })),
  });
  const end = useMutation({
    mutationFn: (id: number) =>
      ask(client.DELETE("/api/v1/cameras/{camera_id}", { params: { path: { camera_id: id } } })),
    onSettled: again,
  });
  return (
    <section aria-label={t("common-cameras-2", { bay: name })} className="my-3">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="grow font-semibold">{t("common-cameras")}</h3>
        {Object.entries(VIEWS).map(([view, label]) => (
          <Button key={view} disabled={offer.isPending} onClick={() => offer.mutate(view)}>
            {t("common-add-one", { view: inside(t(label)) })}
          </Button>
        ))}
      </div>
      <ul className="divide-y divide-rule">
        {cameras.data?.map((camera) => (
          <li key={camera.id} className="flex min-h-12 items-center justify-between gap-4">
            <span>
              {t(VIEWS[camera.view] ?? "")}
              <span className={`block text-sm ${camera.problem ? "text-plum" : "text-soft"}`}>{howItIs(camera)}</span>
            </span>
            <Button disabled={end.isPending} onClick={() => end.mutate(camera.id)}>
              {t("common-disconnect")}
            </Button>
          </li>
        ))}
      </ul>
      {offer.data && (
        <p role="status">
          {t("common-phone-open")} <strong>{`${location.host}/camera`}</strong> {t("common-enter")}{" "}
          <strong className="text-3xl tracking-[0.15em]">{offer.data.code}</strong>{" "}
          <span className="text-soft">
            {t("common-valid-until-one-camera", { time: clock.time(offer.data.until) })}
          </span>
        </p>
      )}
      {offer.isError && <Notice error={offer.error} />}
      {end.isError && <Notice error={end.error} />}
    </section>
  );
}

function howItIs(camera: Schemas["CameraOut"]): string {
  if (!camera.heard) return t("common-offline");
  const state = camera.filming ? t("common-films") : t("common-connected-not-filming");
  const waits = camera.waiting > 0 ? t("common-uploading-films", { n: camera.waiting }) : "";
  return `${state}${waits}${camera.problem ? `. ${camera.problem}` : ""}`;
}
