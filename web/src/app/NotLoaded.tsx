import { t } from "../shared/format/language";
import { Button } from "../shared/ui/Button";

/** A part of the application that failed to load or broke, with a way to continue. */
export function NotLoaded() {
  return (
    <main className="mx-auto w-full max-w-prose px-6 py-10">
      <h1 className="mb-2 text-2xl font-bold">{t("This page could not be shown")}</h1>
      <p className="mb-4 text-soft">
        {t("We can't reach the server, or Instavis was updated while this window was open. Nothing is lost.")}
      </p>
      <Button strong onClick={() => window.location.reload()}>
        {t("Reload")}
      </Button>
    </main>
  );
}
