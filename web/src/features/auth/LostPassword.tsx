import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { AuthForm } from "./AuthForm";

/** Request a password link; the answer does not reveal which accounts exist. */
export function LostPassword({ onBack }: { onBack: () => void }) {
  const [name, setName] = useState("");
  const send = useMutation({ mutationFn: () => ask(client.POST("/api/v1/password-lost", { body: { name } })) });
  return (
    <div className="flex flex-col gap-4">
      <AuthForm says={t("sign-in-email-me-link")} busy={send.isPending} error={send.error} onSend={() => send.mutate()}>
        <TextField
          label={t("sign-in-username-email-address")}
          value={name}
          onChange={setName}
          autoComplete="username"
          autoFocus
          required
        />
      </AuthForm>
      <p role="status">{send.isSuccess && t("sign-in-if-we-email-address-account")}</p>
      <Button onClick={onBack}>{t("common-back-sign")}</Button>
    </div>
  );
}
