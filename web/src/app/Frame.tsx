import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { NavLink, Outlet, useMatch } from "react-router";
import { ask, client } from "../api/client";
import { queries } from "../api/queries";
import { t } from "../shared/format/language";
import { useLanguage } from "../shared/format/useLanguage";
import { type Light, LightSwitch } from "../shared/ui/LightSwitch";
import { Notice } from "../shared/ui/Notice";
import { Select } from "../shared/ui/Select";
import { Wordmark } from "../shared/ui/Wordmark";
import { SignIn } from "./SignIn";
import { useTheme } from "./useTheme";

const UNITS = { "yd-mph": "yd, mph", "m-mph": "m, mph", "m-ms": "m, m/s" } as const;

/** Name bar and whatever the address asks for; the sign-in page for strangers. */
export function Frame() {
  const session = useQuery(queries.session);
  const desk = session.data?.role === "desk";
  const knowledge = useQuery({ ...queries.knowledge, enabled: session.isSuccess && !desk });
  const [theme, toggleTheme] = useTheme();
  const spoken = useLanguage(session.data?.language);
  const lesson = useMatch("/lessons/*");
  if (session.isPending) return null;
  if (session.isError) return <SignIn problem={session.error} />;
  if (knowledge.isError) return <Notice error={knowledge.error} />;
  if (!(knowledge.data || desk) || !spoken) return null;
  const light: Light = { theme, toggleTheme };
  // A lesson needs the whole height: it brings a bar of its own.
  if (lesson) return <Outlet context={light} />;
  return (
    <div className="flex min-h-screen flex-col">
      <header className="no-print flex min-h-12 shrink-0 flex-wrap items-center gap-x-5 border-b border-rule px-4 max-lg:gap-x-2">
        <NavLink to="/" className="flex items-center gap-2 text-lg font-bold tracking-tight">
          <Wordmark />
          {t("Instavis")}
        </NavLink>
        <nav aria-label={t("Main")} className="flex gap-1">
          <Tab to="/">{t("Students")}</Tab>
          <Tab to="/day">{t("Day")}</Tab>
          {!desk && (
            <>
              <Tab to="/outcomes">{t("Outcomes")}</Tab>
              <Tab to="/bays">{t("Bays")}</Tab>
              <Tab to="/knowledge">{t("Knowledge")}</Tab>
            </>
          )}
          {session.data.role === "head" && <Tab to="/academy">{t("Academy")}</Tab>}
        </nav>
        <NavLink
          to="/me"
          className="ml-auto inline-flex min-h-11 items-center text-sm text-soft underline-offset-4 hover:underline"
        >
          <span className="max-lg:sr-only">
            {session.data.name}, {session.data.academy}
          </span>
          <span aria-hidden="true" translate="no" className="px-2 font-semibold lg:hidden">
            {initials(session.data.name)}
          </span>
        </NavLink>
        <UnitsChoice units={session.data.units} />
        <LightSwitch {...light} />
        <SignOut />
      </header>
      <Outlet context={light} />
    </div>
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
        `flex min-h-11 items-center border-b-2 px-3 text-sm max-lg:px-2 ${isActive ? "border-ink font-semibold" : "border-transparent text-soft"}`
      }
    >
      {children}
    </NavLink>
  );
}

function UnitsChoice({ units }: { units: string }) {
  const cache = useQueryClient();
  const change = useMutation({
    mutationFn: (units: string) => ask(client.PATCH("/api/v1/session", { body: { units } })),
    // Sentences come from the server in the coach's units: all of them are asked for again.
    onSuccess: (session) => {
      cache.setQueryData(queries.session.queryKey, session);
      void cache.invalidateQueries();
    },
  });
  return (
    <span>
      <Select
        look="bar"
        label={t("Units")}
        className="text-sm"
        value={units}
        options={Object.entries(UNITS).map(([id, label]) => ({ id, label }))}
        onChange={change.mutate}
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
      location.assign("/");
    },
  });
  return (
    <button
      type="button"
      onClick={() => out.mutate()}
      className="min-h-11 rounded-sm px-2 text-sm underline-offset-4 hover:underline"
    >
      {t("Sign out")}
    </button>
  );
}
