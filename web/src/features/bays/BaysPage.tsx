import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { type Bay, queries, useSession } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { Cameras } from "../../shared/ui/Cameras";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Bridges } from "./Bridges";

/** Bays and their monitors. */
export function BaysPage() {
  const bays = useQuery(queries.bays);
  const head = useSession().role === "head";
  return (
    <main className="mx-auto w-full max-w-4xl px-4 py-6">
      <h1 className="mb-4 text-2xl font-bold">{t("common-bays")}</h1>
      {bays.isError && <Notice error={bays.error} />}
      {bays.data?.length === 0 && (
        <p className="mb-4 max-w-prose text-lg text-soft">{t("bays-no-bay-yet-bay-place")}</p>
      )}
      <div className="flex flex-col gap-6">
        {bays.data?.map((bay) => (
          <BayCard key={bay.id} bay={bay} head={head} />
        ))}
      </div>
      {head && <NewBay />}
      {!head && <p className="mt-4 text-soft">{t("bays-head-coach-adds-revokes-devices")}</p>}
    </main>
  );
}

function NewBay() {
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const make = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/bays", { body: { name } })),
    onSuccess: () => {
      setName("");
      return cache.invalidateQueries({ queryKey: ["bays"] });
    },
  });
  return (
    <form
      className="mt-6 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <TextField label={t("bays-new-bay")} className="grow" value={name} onChange={setName} required maxLength={60} />
      <Button type="submit">{t("bays-add-bay")}</Button>
      {make.isError && <Notice error={make.error} />}
    </form>
  );
}

const inUse = (device: Bay["devices"][number]) => !device.revoked_at;

function BayCard({ bay, head }: { bay: Bay; head: boolean }) {
  const clock = useClock();
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const revoked = [...new Set(bay.devices.filter((device) => !inUse(device)).map((device) => device.name))];
  const refresh = () => cache.invalidateQueries({ queryKey: ["bays"] });
  const issue = useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/bays/{bay_id}/devices", { params: { path: { bay_id: bay.id } }, body: { name } })),
    onSuccess: refresh,
  });
  const roll = useMutation({
    mutationFn: (device_id: number) =>
      ask(client.POST("/api/v1/devices/{device_id}/roll", { params: { path: { device_id } } })),
    onSuccess: refresh,
  });
  const revoke = useMutation({
    mutationFn: (device_id: number) =>
      ask(client.POST("/api/v1/devices/{device_id}/revoke", { params: { path: { device_id } } })),
    onSuccess: refresh,
  });
  return (
    <section className="border border-rule bg-sheet p-4">
      <h2 className="text-lg font-semibold">{bay.name}</h2>
      <p className="text-soft">
        {bay.lesson_id === null ? t("bays-no-lesson-using-bay") : t("bays-lesson-using-bay", { student: bay.student })}
        {(bay.tray ?? 0) > 0 && t("bays-unassigned-balls", { tray: bay.tray })}
        {(bay.refused_count ?? 0) > 0 && t("bays-records-refused-lesson-bay-shows", { n: bay.refused_count })}
      </p>
      <ul className="my-3 divide-y divide-rule">
        {bay.devices.filter(inUse).map((device) => (
          <li
            key={device.id}
            className="grid min-h-12 grid-cols-[minmax(0,1fr)_minmax(0,11rem)_auto] items-center gap-4 max-sm:grid-cols-1"
          >
            <span>{device.name}</span>
            <span className="text-sm text-soft tabular-nums">
              {device.seen_at
                ? t("common-last-ball", { moment: clock.moment(device.seen_at) })
                : t("bays-never-connected")}
            </span>
            {head && (
              <span className="flex gap-2 py-0.5">
                <Button
                  onClick={() => roll.mutate(device.id)}
                  aria-label={t("bays-new-token-2", { device: device.name, bay: bay.name })}
                >
                  {t("bays-new-token")}
                </Button>
                <Button
                  onClick={() => revoke.mutate(device.id)}
                  aria-label={t("bays-revoke", { device: device.name, bay: bay.name })}
                >
                  {t("common-revoke")}
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {revoked.length > 0 && (
        <p className="mb-2 text-sm text-soft">{t("bays-revoked", { names: revoked.join(", ") })}</p>
      )}
      {head && (
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            issue.mutate();
          }}
        >
          <TextField
            label={t("bays-new-device")}
            className="grow"
            value={name}
            onChange={setName}
            required
            maxLength={60}
          />
          <Button type="submit">{t("bays-create-token")}</Button>
        </form>
      )}
      <Bridges bay={bay.id} name={bay.name} head={head} />
      <Cameras bay={bay.id} name={bay.name} />
      {issue.isError && <Notice error={issue.error} />}
      {revoke.isError && <Notice error={revoke.error} />}
      {roll.isError && <Notice error={roll.error} />}
      {[issue.data, roll.data].map(
        (result) =>
          result && (
            <Callout tone="straw" className="mt-3" key={result.token}>
              {t("bays-token-shown-only-now", { name: result.device.name })}{" "}
              <code className="font-mono break-all select-all">{result.token}</code>
            </Callout>
          ),
      )}
    </section>
  );
}
