import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { ask, client } from "../../api/client";
import { people } from "../../api/people";
import { queries } from "../../api/queries";
import { t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Door } from "./Door";

/** A lost password is chosen anew, by a link that the head coach handed over. */
export function PasswordPage() {
  const token = useParams().token ?? "";
  const told = useQuery(people.lost(token));
  const spoken = useLanguage(told.data?.language);
  if (told.isPending || (told.data && !spoken)) return null;
  return (
    <Door title={told.data ? t("A new password for {name}", { name: told.data.name }) : ""} error={told.error}>
      {told.data && <Choosing token={token} username={told.data.username} />}
    </Door>
  );
}

function Choosing({ token, username }: { token: string; username: string }) {
  const cache = useQueryClient();
  const navigate = useNavigate();
  const [password, setPassword] = useState("");
  const choose = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/password/{token}", { params: { path: { token } }, body: { password } })),
    onSuccess: async (session) => {
      cache.clear();
      cache.setQueryData(queries.session.queryKey, session);
      await navigate("/");
    },
  });
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        choose.mutate();
      }}
    >
      <TextField label={t("User name")} value={username} onChange={() => {}} readOnly autoComplete="username" />
      <TextField
        label={t("New password, at least ten characters")}
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="new-password"
        required
      />
      <Button type="submit" strong disabled={choose.isPending}>
        {t("Keep it and come in")}
      </Button>
      {choose.isError && <Notice error={choose.error} />}
    </form>
  );
}
