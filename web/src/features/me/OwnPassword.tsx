import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

/** Change the password. */
export function OwnPassword() {
  const cache = useQueryClient();
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const change = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/password", { body: { old, new: next } })),
    onSuccess: () => {
      setOld("");
      setNext("");
      return cache.invalidateQueries({ queryKey: ["account"] });
    },
  });
  return (
    <Section title={t("common-password")} says={t("account-new-password-signs-out-all")}>
      <form
        className="grid w-full items-end gap-3 sm:grid-cols-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <TextField
          label={t("account-old-password")}
          type="password"
          value={old}
          onChange={setOld}
          autoComplete="current-password"
          required
        />
        <TextField
          label={t("common-new-password-least-ten-characters")}
          type="password"
          value={next}
          onChange={setNext}
          autoComplete="new-password"
          required
        />
        <Button type="submit" className="justify-self-start" disabled={change.isPending}>
          {t("account-change-password")}
        </Button>
      </form>
      <p role="status">{change.isSuccess && t("account-password-changed-other-devices-must")}</p>
      {change.isError && <Notice error={change.error} />}
    </Section>
  );
}
