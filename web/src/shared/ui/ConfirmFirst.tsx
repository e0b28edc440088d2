import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { ask, client, Problems } from "../../api/client";
import { passkeysWork, showPasskey } from "../../api/passkeys";
import { t } from "../format/language";
import { Button } from "./Button";
import { TextField } from "./Field";
import { Notice } from "./Notice";
import { Sheet } from "./Sheet";

type Props = { operation: { error: Error | null; reset: () => void }; again: () => void };

const asksFirst = (error: Error | null) =>
  error instanceof Problems && error.list.some((problem) => problem.field === "confirm");

/** An action's error; if only a confirmation is missing, ask for it and repeat the action. */
export function ConfirmFirst({ operation, again }: Props) {
  if (!operation.error) return null;
  if (!asksFirst(operation.error)) return <Notice error={operation.error} />;
  return <ItIsMe onClose={() => operation.reset()} onShown={again} />;
}

function ItIsMe({ onClose, onShown }: { onClose: () => void; onShown: () => void }) {
  const [password, setPassword] = useState("");
  const show = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/confirmed", { body: { password } })),
    onSuccess: onShown,
  });
  const byPasskey = useMutation({ mutationFn: showPasskey, onSuccess: onShown });
  return (
    <Sheet
      title={t("common-confirm-2")}
      result={t("common-enter-password-again-before-changing")}
      open
      onClose={onClose}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          show.mutate();
        }}
      >
        <TextField
          label={t("common-password-2")}
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          required
        />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" strong disabled={show.isPending}>
            {t("common-confirm")}
          </Button>
          {passkeysWork() && (
            <Button disabled={byPasskey.isPending} onClick={() => byPasskey.mutate()}>
              {t("common-use-passkey")}
            </Button>
          )}
          <Button onClick={onClose}>{t("common-cancel")}</Button>
        </div>
        {show.isError && <Notice error={show.error} />}
        {byPasskey.isError && <Notice error={byPasskey.error} />}
      </form>
    </Sheet>
  );
}
