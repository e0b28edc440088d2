import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { ask, client } from "../../api/client";
import { queries, useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { roleMay, roleName } from "../../shared/format/roles";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";

/** A coach's own page: name and password. */
export function MePage() {
  const session = useSession();
  return (
    <main className="mx-auto flex w-full max-w-3xl flex-col gap-8 px-4 py-6">
      <div>
        <h1 className="text-2xl font-bold">{session.name}</h1>
        <p className="text-soft">
          {t("{role} at {academy}, signed in as {username}.", {
            role: roleName(session.role),
            academy: session.academy,
            username: session.username,
          })}{" "}
          {roleMay(session.role)}
        </p>
      </div>
      <OwnName />
      <OwnPassword />
    </main>
  );
}

function OwnName() {
  const cache = useQueryClient();
  const session = useSession();
  const [name, setName] = useState(session.name);
  const keep = useMutation({
    mutationFn: () => ask(client.PATCH("/api/v1/session", { body: { name } })),
    onSuccess: (told) => cache.setQueryData(queries.session.queryKey, told),
  });
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <TextField
        className="grow"
        label={t("Your name, as students read it")}
        value={name}
        onChange={setName}
        required
        maxLength={120}
      />
      <Button type="submit" disabled={keep.isPending || name.trim() === session.name}>
        {t("Keep")}
      </Button>
      {keep.isError && <Notice error={keep.error} />}
    </form>
  );
}

function OwnPassword() {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const change = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/password", { body: { old, new: next } })),
    onSuccess: () => {
      setOld("");
      setNext("");
    },
  });
  return (
    <section aria-labelledby="password">
      <h2 id="password" className="text-xl font-bold">
        {t("Password")}
      </h2>
      <p className="text-soft">{t("A new one signs you out everywhere but here.")}</p>
      <form
        className="mt-2 flex flex-col gap-3"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <TextField
          label={t("Old password")}
          type="password"
          value={old}
          onChange={setOld}
          autoComplete="current-password"
          required
        />
        <TextField
          label={t("New password, at least ten characters")}
          type="password"
          value={next}
          onChange={setNext}
          autoComplete="new-password"
          required
        />
        <Button type="submit" className="self-start" disabled={change.isPending}>
          {t("Change it")}
        </Button>
      </form>
      <p role="status" className="mt-2">
        {change.isSuccess && t("Changed. Other devices have to sign in anew.")}
      </p>
      {change.isError && <Notice error={change.error} />}
    </section>
  );
}
