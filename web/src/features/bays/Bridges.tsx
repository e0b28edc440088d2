import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { SourceSheet } from "../files/SourceSheet";

const REFRESH = 3000;
const PROGRAM = "/static/instavis-bridge.pyz";
const CLOCK_OFF = 2; // s that nobody needs to hear of

/** Bridges of a bay: add one by code, see its state, and set the columns of its rows. */
export function Bridges({ bay, name, head }: { bay: number; name: string; head: boolean }) {
  const clock = useClock();
  const cache = useQueryClient();
  const bridges = useQuery({ ...queries.bridges(bay), refetchInterval: REFRESH });
  const sources = useQuery({ ...queries.sources(bay), refetchInterval: REFRESH });
  const [open, setOpen] = useState<number | null>(null);
  const offer = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/bays/{bay_id}/bridges", { params: { path: { bay_id: bay } } })),
  });
  const end = useMutation({
    mutationFn: (id: number) =>
      ask(client.DELETE("/api/v1/bridges/{bridge_id}", { params: { path: { bridge_id: id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: ["bays"] }),
  });
  return (
    <section aria-label={t("bays-bridges", { bay: name })} className="my-3">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="grow font-semibold">{t("bays-bridges-monitors-write-files-stream")}</h3>
        {head && (
          <Button disabled={offer.isPending} onClick={() => offer.mutate()}>
            {t("bays-add-bridge")}
          </Button>
        )}
      </div>
      <ul className="divide-y divide-rule">
        {bridges.data?.map((bridge) => (
          <li key={bridge.id} className="flex min-h-12 items-center justify-between gap-4">
            <span className="min-w-0">
              {bridge.name}
              <span className={`block text-sm break-words ${bridge.problem ? "text-plum" : "text-soft"}`}>
                {howItIs(bridge, clock.moment)}
              </span>
            </span>
            {head && (
              <Button disabled={end.isPending} onClick={() => end.mutate(bridge.id)}>
                {t("common-disconnect")}
              </Button>
            )}
          </li>
        ))}
        {sources.data?.map((source) => (
          <li key={source.id} className="flex min-h-12 items-center justify-between gap-4">
            <span className="min-w-0">
              <span className="break-words">{source.name}</span>
              <span className={`block text-sm ${source.waiting > 0 ? "text-plum" : "text-soft"}`}>
                {whatIsKnown(source)}
              </span>
            </span>
            <Button onClick={() => setOpen(source.id)} aria-label={t("common-columns-2", { name: source.name })}>
              {t("common-columns")}
            </Button>
          </li>
        ))}
      </ul>
      {offer.data && (
        <div role="status" className="my-2">
          <p>
            {t("bays-enter-bridges-own-page")} <strong className="text-3xl tracking-[0.15em]">{offer.data.code}</strong>{" "}
            <span className="text-soft">
              {t("bays-valid-until-one-bridge", { time: clock.time(offer.data.until) })}
            </span>
          </p>
          <p>
            {t("bays-run-bays-computer-monitors-folder")}
            <code className="block font-mono break-words select-all">{command(offer.data.code)}</code>
            <a href={PROGRAM} download className="underline">
              {t("bays-download-bridge")}
            </a>{" "}
            <span className="text-soft">{t("bays-one-file-needs-only-python")}</span>
          </p>
        </div>
      )}
      {offer.isError && <Notice error={offer.error} />}
      {end.isError && <Notice error={end.error} />}
      {open !== null && <SourceSheet id={open} onClose={() => setOpen(null)} />}
    </section>
  );
}

function command(code: string): string {
  return `python3 ${PROGRAM.slice(PROGRAM.lastIndexOf("/") + 1)} FOLDER --server ${location.origin} --code ${code}`;
}

function howItIs(bridge: Schemas["BridgeOut"], moment: (at: string) => string): string {
  const last = bridge.last_at ? t("common-last-ball", { moment: moment(bridge.last_at) }) : t("common-no-ball-yet");
  if (!bridge.heard) return t("bays-offline", { last });
  const parts = [bridge.source || t("bays-watches-nothing-yet"), last];
  if (bridge.waiting > 0) parts.push(t("bays-sending-rows", { n: bridge.waiting }));
  if (Math.abs(bridge.clock_off_s) > CLOCK_OFF) {
    parts.push(t("bays-clock-off-server-time-used", { n: Math.round(bridge.clock_off_s) }));
  }
  return `${parts.join("; ")}${bridge.problem ? `. ${bridge.problem}` : ""}`;
}

function whatIsKnown(source: Schemas["SourceOut"]): string {
  if (source.left) return t("bays-ignored-no-balls");
  if (source.waiting > 0) return t("bays-rows-waiting-set-their-columns-2", { n: source.waiting });
  return source.confirmed_at ? t("bays-rows-stored-balls") : t("bays-found-set-columns");
}
