import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { DoorForm } from "./Door";

/** Ask for a link to a new password; what is answered tells nobody who there is. */
export function LostPassword({ onBack }: { onBack: () => void }) {
  const [name, setName] = useState("");
  const send = useMutation({ mutationFn: () => ask(client.POST("/api/v1/password-lost", { body: { name } })) });
  return (
    <div className="flex flex-col gap-4">
      <DoorForm says={t("Send me a link")} busy={send.isPending} error={send.error} onSend={() => send.mutate()}>
        <TextField
          label={t("User name or e-mail address")}
          value={name}
          onChange={setName}
          autoComplete="username"
          autoFocus
          required
        />
      </DoorForm>
      <p role="status">
        {send.isSuccess &&
          t("If we know an address of theirs, a letter is on its way. Otherwise the head coach can hand over a link.")}
      </p>
      <Button onClick={onBack}>{t("Back to signing in")}</Button>
    </div>
  );
}
