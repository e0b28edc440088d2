import type { ReactNode } from "react";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { Wordmark } from "../../shared/ui/Wordmark";

/** A page that a link opens to somebody who is not signed in. */
export function Door({ title, error, children }: { title: string; error: Error | null; children: ReactNode }) {
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-6 px-6">
      <p className="flex items-center gap-3 text-xl font-bold">
        <Wordmark /> {t("Instavis")}
      </p>
      {error ? (
        <Notice error={error} />
      ) : (
        <>
          <h1 className="text-2xl font-bold">{title}</h1>
          {children}
        </>
      )}
    </main>
  );
}
