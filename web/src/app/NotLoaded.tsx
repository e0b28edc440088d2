import { t } from "../shared/format/language";
import { Button } from "../shared/ui/Button";

/** A part of the application that failed to load or broke, with a way to continue. */
export function NotLoaded() {
  return (
    <main className="mx-auto w-full max-w-prose px-6 py-10">
      <h1 className="mb-2 text-2xl font-bold">{t("common-page-could-not-shown")}</h1>
      <p className="mb-4 text-soft">{t("common-we-cant-reach-server-instavis")}</p>
      <Button strong onClick={() => window.location.reload()}>
        {t("common-reload")}
      </Button>
    </main>
  );
}
