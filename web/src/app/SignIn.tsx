import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { ask, client, Problems } from "../api/client";
import { queries } from "../api/queries";
import { t } from "../shared/format/language";
import { Button } from "../shared/ui/Button";
import { TextField } from "../shared/ui/Field";
import { Notice } from "../shared/ui/Notice";
import { Wordmark } from "../shared/ui/Wordmark";

/** For strangers: name and password, and what went wrong. */
export function SignIn({ problem }: { problem: Error }) {
  const cache = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session", { body: { username, password } })),
    onSuccess: (session) => cache.setQueryData(queries.session.queryKey, session),
  });
  const down = problem instanceof Problems && problem.status !== 401;
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-8 px-6">
      <div>
        <h1 className="flex items-center gap-3 text-3xl font-bold tracking-tight">
          <Wordmark /> {t("Instavis")}
        </h1>
        <p className="mt-2 text-lg text-soft">
          {t("From what club and ball did to what the pivot did, and back again.")}
        </p>
      </div>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <TextField label={t("User name")} value={username} onChange={setUsername} autoComplete="username" required />
        <TextField
          label={t("Password")}
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          required
        />
        <Button type="submit" strong disabled={enter.isPending}>
          {t("Sign in")}
        </Button>
        {enter.isError && <Notice error={enter.error} />}
        {down && <Notice error={problem} />}
      </form>
    </main>
  );
}
