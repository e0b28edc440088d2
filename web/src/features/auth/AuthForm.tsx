import { useQueryClient } from "@tanstack/react-query";
import type { FormEvent, ReactNode } from "react";
import { useNavigate } from "react-router";
import { queries, type Session } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Wordmark } from "../../shared/ui/Wordmark";

/** A page behind a link for someone who is not signed in. */
export function AuthPage({ title, error, children }: { title: string; error: Error | null; children: ReactNode }) {
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-6 px-6">
      <p className="flex items-center gap-3 text-xl font-bold">
        <Wordmark /> {t("common-instavis")}
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

type FormProps = { says: string; busy: boolean; error: Error | null; onSend: () => void; children: ReactNode };

/** The form of such a page, with its one button. */
export function AuthForm({ says, busy, error, onSend, children }: FormProps) {
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onSend();
      }}
    >
      {children}
      <Button type="submit" strong disabled={busy}>
        {says}
      </Button>
      {error && <Notice error={error} />}
    </form>
  );
}

/** Sign the visitor in and forget anything of the previous user. */
export function useComeIn() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  return async (session: Session) => {
    cache.clear();
    cache.setQueryData(queries.session.queryKey, session);
    await navigate("/");
  };
}
