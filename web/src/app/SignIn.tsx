import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { wantsMore } from "../api/account";
import { ask, client, Problems } from "../api/client";
import { queries, type Session } from "../api/queries";
import { AuthForm } from "../features/auth/AuthForm";
import { LostPassword } from "../features/auth/LostPassword";
import { ByPasskey, SecondStep } from "../features/auth/SecondStep";
import { t } from "../shared/format/language";
import { TextField } from "../shared/ui/Field";
import { Notice } from "../shared/ui/Notice";
import { Wordmark } from "../shared/ui/Wordmark";

/** For strangers: name, password and second factor, with errors. */
export function SignIn({ problem }: { problem: Error }) {
  const cache = useQueryClient();
  const [factors, setFactors] = useState<string[] | null>(null);
  const [lost, setLost] = useState(false);
  const onIn = (session: Session) => cache.setQueryData(queries.session.queryKey, session);
  const down = problem instanceof Problems && problem.status !== 401;
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-8 px-6">
      <div>
        <h1 className="flex items-center gap-3 text-3xl font-bold tracking-tight">
          <Wordmark /> {t("common-instavis")}
        </h1>
        <p className="mt-2 text-lg text-soft">{t("common-see-what-pivot-did-behind")}</p>
      </div>
      {factors ? (
        <>
          <SecondStep factors={factors} onIn={onIn} />
          <Quiet onClick={() => setFactors(null)}>{t("common-back-sign")}</Quiet>
        </>
      ) : lost ? (
        <LostPassword onBack={() => setLost(false)} />
      ) : (
        <FirstStep onIn={onIn} onMore={setFactors} onLost={() => setLost(true)} />
      )}
      {down && <Notice error={problem} />}
    </main>
  );
}

type FirstProps = { onIn: (session: Session) => void; onMore: (factors: string[]) => void; onLost: () => void };

function FirstStep({ onIn, onMore, onLost }: FirstProps) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session", { body: { username, password } })),
    onSuccess: (result) => (wantsMore(result) ? onMore(result.ways) : onIn(result)),
  });
  return (
    <div className="flex flex-col gap-4">
      <AuthForm says={t("common-sign")} busy={enter.isPending} error={enter.error} onSend={() => enter.mutate()}>
        <TextField
          label={t("common-username")}
          value={username}
          onChange={setUsername}
          autoComplete="username"
          required
        />
        <TextField
          label={t("common-password")}
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          required
        />
      </AuthForm>
      <ByPasskey onIn={onIn} />
      <Quiet onClick={onLost}>{t("common-forgot-password")}</Quiet>
    </div>
  );
}

function Quiet({ onClick, children }: { onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="min-h-11 self-start text-soft underline underline-offset-4 hover:text-ink"
    >
      {children}
    </button>
  );
}
