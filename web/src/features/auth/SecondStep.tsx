import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { passkeysWork, showPasskey } from "../../api/passkeys";
import type { Session } from "../../api/queries";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { AuthForm } from "./AuthForm";

/** After the password: a code of the app, a recovery code, or a passkey. */
export function SecondStep({ factors, onIn }: { factors: string[]; onIn: (session: Session) => void }) {
  const [code, setCode] = useState("");
  const show = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/code", { body: { code } })),
    onSuccess: onIn,
  });
  const passkey = factors.includes("passkey");
  return (
    <div className="flex flex-col gap-4">
      {factors.includes("code") && (
        <AuthForm says={t("common-sign")} busy={show.isPending} error={show.error} onSend={() => show.mutate()}>
          <TextField
            label={t("sign-in-code-app-recovery-code")}
            value={code}
            onChange={setCode}
            inputMode="numeric"
            autoComplete="one-time-code"
            autoFocus
            required
          />
        </AuthForm>
      )}
      {passkey && <ByPasskey onIn={onIn} />}
      {passkey && !passkeysWork() && <p className="text-soft">{t("sign-in-browser-cant-use-passkeys-address")}</p>}
    </div>
  );
}

/** Sign in with a passkey alone; nothing if the browser has none. */
export function ByPasskey({ onIn }: { onIn: (session: Session) => void }) {
  const show = useMutation({ mutationFn: showPasskey, onSuccess: onIn });
  if (!passkeysWork()) return null;
  return (
    <>
      <Button disabled={show.isPending} onClick={() => show.mutate()}>
        {t("sign-in-sign-passkey")}
      </Button>
      {show.isError && <Notice error={show.error} />}
    </>
  );
}
