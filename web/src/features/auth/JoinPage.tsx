import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask, client, type Schemas } from "../../api/client";
import { people } from "../../api/people";
import { t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { TextField } from "../../shared/ui/Field";
import { AuthForm, AuthPage, useComeIn } from "./AuthForm";

/** Accept an invitation: name, username, password, sign in. */
export function JoinPage() {
  const token = useParams().token ?? "";
  const result = useQuery(people.invitation(token));
  const spoken = useLanguage(result.data?.language);
  if (result.isPending || (result.data && !spoken)) return null;
  return (
    <AuthPage title={result.data ? t("sign-in-welcome", { academy: result.data.academy }) : ""} error={result.error}>
      {result.data && <Joining token={token} result={result.data} />}
    </AuthPage>
  );
}

function Joining({ token, result }: { token: string; result: Schemas["InvitedOut"] }) {
  const [name, setName] = useState(result.name);
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const join = useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/join/{token}", { params: { path: { token } }, body: { name, username, password } })),
    onSuccess: useComeIn(),
  });
  return (
    <AuthForm says={t("common-sign")} busy={join.isPending} error={join.error} onSend={() => join.mutate()}>
      <TextField
        label={t("sign-in-name")}
        value={name}
        onChange={setName}
        autoComplete="name"
        required
        maxLength={120}
      />
      <TextField
        label={t("common-username")}
        value={username}
        onChange={setUsername}
        autoComplete="username"
        required
      />
      <TextField
        label={t("sign-in-password-least-ten-characters")}
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="new-password"
        required
      />
    </AuthForm>
  );
}
