import { useQuery } from "@tanstack/react-query";
import { queries, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { Coaches } from "./Coaches";
import { Invitations } from "./Invitations";
import { Keeping } from "./Keeping";
import { Mail } from "./Mail";
import { NameAndDays } from "./NameAndDays";
import { Written } from "./Written";

/** The head coach's page: team, activity log, academy settings. */
export function AcademyPage() {
  const head = useSession().role === "head";
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-6">
      <h1 className="mb-4 text-2xl font-bold">{t("common-academy")}</h1>
      {head ? (
        <ForTheHead />
      ) : (
        <p className="max-w-prose text-lg text-soft">{t("academy-head-coach-looks-after-people")}</p>
      )}
    </main>
  );
}

function ForTheHead() {
  const academy = useQuery(queries.academy);
  return (
    <div className="grid items-start gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex flex-col gap-8">
        <Coaches />
        <Written />
      </div>
      <div className="flex flex-col gap-8">
        <Invitations />
        {academy.isError && <Notice error={academy.error} />}
        {academy.data && (
          <>
            <NameAndDays academy={academy.data} />
            <Keeping academy={academy.data} />
            <Mail academy={academy.data} />
          </>
        )}
      </div>
    </div>
  );
}
