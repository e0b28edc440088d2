import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { NavLink, Outlet, useLocation, useMatch } from "react-router";
import { useOwnSettings } from "../api/account";
import { ask, client } from "../api/client";
import { queries } from "../api/queries";
import { forgetUnsaved } from "../api/unsaved";
import { FindAnything } from "../features/find/FindAnything";
import { t } from "../shared/format/language";
import { UNITS } from "../shared/format/units";
import { useLanguage } from "../shared/format/useLanguage";
import { Button } from "../shared/ui/Button";
import { Callout } from "../shared/ui/Callout";
import { type Framed, type Light, LightSwitch } from "../shared/ui/LightSwitch";
import { Notice } from "../shared/ui/Notice";
import { Select } from "../shared/ui/Select";
import { useTitle } from "../shared/ui/useTitle";
import { Wordmark } from "../shared/ui/Wordmark";
import { SignIn } from "./SignIn";
import { useTheme } from "./useTheme";

const MePage = lazy(async () => ({ default: (await import("../features/me/MePage")).MePage }));

/** Page titles by the first word of the address; lesson and student pages set their own. */
const PLACES: Record<string, string> = {
  day: "common-day-2",
  outcomes: "common-outcomes",
  bays: "common-bays",
  knowledge: "common-knowledge",
  academy: "common-academy",
  me: "common-account",
  eye: "common-eye-practice",
  train: "common-practice-lessons",
};

/** Name bar and current page; the sign-in page for strangers. `ready` is called after sign-in. */
export function Frame({ ready }: { ready: () => void }) {
  const session = useQuery(queries.session);
  const desk = session.data?.role === "desk";
  const shut = session.data?.needs_factor ?? false;
  // Recovery codes are shown there only once: whoever was held there leaves by a press, not by being let in.
  const [held, hold] = useState(false);
  if (shut && !held) hold(true);
  const teaches = session.isSuccess && !desk && !shut;
  const knowledge = useQuery({ ...queries.knowledge, enabled: teaches });
  useEffect(() => {
    if (teaches) ready();
  }, [teaches, ready]);
  const [theme, toggleTheme] = useTheme();
  const spoken = useLanguage(session.data?.language);
  const lesson = useMatch("/lessons/*");
  const place = useLocation().pathname.split("/")[1] ?? "";
  const student = useMatch("/students/*");
  useTitle(teaches && (lesson || student) ? undefined : t(PLACES[place] ?? "Students"));
  const [finding, setFinding] = useState(false);
  if (session.isPending) return null;
  if (session.isError) return <SignIn problem={session.error} />;
  if (knowledge.isError) return <Notice error={knowledge.error} />;
  if ((teaches && !knowledge.data) || !spoken) return null;
  const light: Light = { theme, toggleTheme };
  if (held) return <FactorFirst light={light} shut={shut} onLeave={() => hold(false)} />;
  // A lesson uses the full height and has its own bar.
  if (lesson)
    return (
      <>
        <Outlet context={{ light, find: () => setFinding(true) } satisfies Framed} />
        {teaches && <FindAnything open={finding} onOpen={setFinding} button={false} />}
      </>
    );
  return (
    <div className="flex min-h-screen flex-col">
      <header className="no-print flex min-h-12 shrink-0 flex-wrap items-center gap-x-5 border-b border-rule px-4 max-lg:gap-x-2">
        <NavLink to="/" className="flex items-center gap-2 text-lg font-bold tracking-tight">
          <Wordmark />
          {t("common-instavis")}
        </NavLink>
        <nav aria-label={t("common-main")} className="flex gap-1">
          <Tab to="/">{t("common-students")}</Tab>
          <Tab to="/day">{t("common-day-2")}</Tab>
          {!desk && (
            <>
              <Tab to="/outcomes">{t("common-outcomes")}</Tab>
              <Tab to="/bays">{t("common-bays")}</Tab>
              <Tab to="/knowledge">{t("common-knowledge")}</Tab>
            </>
          )}
          {session.data.role === "head" && <Tab to="/academy">{t("common-academy")}</Tab>}
        </nav>
        {teaches && <FindAnything open={finding} onOpen={setFinding} button />}
        <NavLink
          to="/me"
          className="ml-auto inline-flex min-h-11 items-center text-sm text-soft underline-offset-4 hover:underline"
        >
          <span className="max-lg:sr-only">
            {session.data.name}
            <span className="max-2xl:sr-only">, {session.data.academy}</span>
          </span>
          <span aria-hidden="true" translate="no" className="pl-2 font-semibold lg:hidden">
            {initials(session.data.name)}
          </span>
          {session.data.notices > 0 && (
            <span className="ml-2 rounded-sm bg-straw px-1.5 font-semibold text-[#1e2a32]">
              {session.data.notices}
              <span className="sr-only"> {t("common-account-notices")}</span>
            </span>
          )}
        </NavLink>
        <UnitsChoice units={session.data.units} />
        <LightSwitch {...light} />
        <SignOut />
      </header>
      <Outlet context={light} />
    </div>
  );
}

/** The academy requires a second factor that is missing: show only the account page. */
function FactorFirst({ light, shut, onLeave }: { light: Light; shut: boolean; onLeave: () => void }) {
  return (
    <>
      <header className="no-print flex min-h-12 items-center justify-end gap-x-3 border-b border-rule px-4">
        <span className="mr-auto flex items-center gap-2 text-lg font-bold tracking-tight">
          <Wordmark />
          {t("common-instavis")}
        </span>
        <LightSwitch {...light} />
        <SignOut />
      </header>
      <Callout as="div" role="status" tone={shut ? "clay" : "moss"} className="mx-auto mt-4 max-w-[70rem]">
        {shut ? (
          t("common-academy-requires-second-factor-set")
        ) : (
          <div className="flex flex-wrap items-center justify-between gap-3">
            {t("common-done-save-recovery-codes-before")}
            <Button strong onClick={onLeave}>
              {t("common-continue")}
            </Button>
          </div>
        )}
      </Callout>
      <Suspense>
        <MePage />
      </Suspense>
    </>
  );
}

function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : ""].map((word) => word?.[0] ?? "").join("");
}

function Tab({ to, children }: { to: string; children: string }) {
  return (
    <NavLink
      to={to}
      end
      className={({ isActive }) =>
        `flex min-h-11 items-center border-b-2 px-3 text-sm max-lg:px-1.5 ${isActive ? "border-ink font-semibold" : "border-transparent text-soft"}`
      }
    >
      {children}
    </NavLink>
  );
}

function UnitsChoice({ units }: { units: string }) {
  const change = useOwnSettings();
  return (
    // On a tablet the bar is full: there the units are chosen on one's own page.
    <span className="max-lg:hidden">
      <Select
        variant="bar"
        label={t("common-units")}
        className="text-sm"
        value={units}
        options={UNITS}
        onChange={(units) => change.mutate({ units })}
      />
    </span>
  );
}

function SignOut() {
  const cache = useQueryClient();
  const out = useMutation({
    mutationFn: () => ask(client.DELETE("/api/v1/session")),
    onSuccess: () => {
      cache.clear();
      forgetUnsaved();
      location.assign("/");
    },
  });
  return (
    <button
      type="button"
      onClick={() => out.mutate()}
      className="min-h-11 rounded-sm px-2 text-sm underline-offset-4 hover:underline"
    >
      {t("common-sign-out")}
    </button>
  );
}
