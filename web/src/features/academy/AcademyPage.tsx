import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { people, usePeopleActions } from "../../api/people";
import { queries, useSession } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { Coaches } from "./Coaches";
import { Invitations } from "./Invitations";

/** What the head coach answers for: people, the academy's name and days, and what was done of weight. */
export function AcademyPage() {
  const head = useSession().role === "head";
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-6">
      <h1 className="mb-4 text-2xl font-bold">{t("Academy")}</h1>
      {head ? (
        <div className="grid items-start gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <Coaches />
          <Invitations />
          <Written />
          <NameAndDays />
        </div>
      ) : (
        <p className="max-w-prose text-lg text-soft">{t("The head coach looks after people and settings here.")}</p>
      )}
    </main>
  );
}

function NameAndDays() {
  const session = useSession();
  const academy = useQuery(queries.academy);
  const { changeAcademy } = usePeopleActions();
  const [name, setName] = useState(session.academy);
  return (
    <section aria-labelledby="name-and-days">
      <h2 id="name-and-days" className="text-xl font-bold">
        {t("Name and days")}
      </h2>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          changeAcademy.mutate({ name });
        }}
      >
        <TextField
          className="grow"
          label={t("Name of the academy")}
          value={name}
          onChange={setName}
          required
          maxLength={120}
        />
        <Button type="submit" disabled={name.trim() === session.academy}>
          {t("Keep")}
        </Button>
      </form>
      {academy.data && (
        <Select
          className="mt-3 w-full"
          label={t("Days and times of")}
          value={session.time_zone}
          options={academy.data.zones.map((zone) => ({ id: zone, label: zone.replaceAll("_", " ") }))}
          onChange={(time_zone) => changeAcademy.mutate({ time_zone })}
        />
      )}
      {changeAcademy.isError && <Notice error={changeAcademy.error} />}
    </section>
  );
}

/** The lines that stay: who did what of weight. */
function Written() {
  const clock = useClock();
  const lines = useQuery(people.audit);
  if (lines.isError) return <Notice error={lines.error} />;
  return (
    <section aria-labelledby="written">
      <h2 id="written" className="text-xl font-bold">
        {t("Written down")}
      </h2>
      <p className="text-sm text-soft">
        {t("Invitations, roles, passwords, exports and erasures; no student is named.")}
      </p>
      {lines.data?.length === 0 && <p className="mt-2">{t("Nothing yet.")}</p>}
      <ol className="mt-2 max-h-96 overflow-y-auto border-y border-rule" aria-label={t("Written down")} tabIndex={-1}>
        {lines.data?.map((line) => (
          <li key={`${line.at} ${line.text}`} className="grid grid-cols-[10rem_minmax(0,1fr)] gap-3 py-1.5 text-sm">
            <span className="text-soft">{clock.moment(line.at)}</span>
            <span>
              {line.who}: {line.text}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
