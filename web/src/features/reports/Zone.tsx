import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "../../api/client";
import { queries, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";

/** The academy's time zone; the head coach can change it. */
export function Zone() {
  const session = useSession();
  const cache = useQueryClient();
  const head = session.role === "head";
  const academy = useQuery({ ...queries.academy, enabled: head });
  const move = useMutation({
    mutationFn: (time_zone: string) => ask(client.PATCH("/api/v1/academy", { body: { time_zone } })),
    onSuccess: () => cache.invalidateQueries(),
  });
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  if (!head || !academy.data)
    return <p className="mb-3 text-sm text-soft">{t("reports-time-zone", { time_zone: session.time_zone })}</p>;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 text-sm text-soft">
      <Select
        variant="bar"
        label={t("common-time-zone")}
        value={session.time_zone}
        disabled={move.isPending}
        options={academy.data.zones.map((zone) => ({ id: zone, label: zone.replaceAll("_", " ") }))}
        onChange={move.mutate}
      />
      {here !== session.time_zone && academy.data.zones.includes(here) && (
        <button type="button" className="min-h-11 underline underline-offset-4" onClick={() => move.mutate(here)}>
          {t("reports-device-use-time-zone", { here: here.replaceAll("_", " ") })}
        </button>
      )}
      {move.isError && <Notice error={move.error} />}
    </div>
  );
}
