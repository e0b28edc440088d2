import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { wantsMore } from "../../api/account";
import { ask, client } from "../../api/client";
import { people } from "../../api/people";
import { t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { TextField } from "../../shared/ui/Field";
import { AuthForm, AuthPage, useComeIn } from "./AuthForm";
import { SecondStep } from "./SecondStep";

/** Choose a new password with a link from the head coach or an email. */
export function PasswordPage() {
  const token = useParams().token ?? "";
  const result = useQuery(people.lost(token));
  const spoken = useLanguage(result.data?.language);
  if (result.isPending || (result.data && !spoken)) return null;
  return (
    <AuthPage title={result.data ? t("common-new-password", { name: result.data.name }) : ""} error={result.error}>
      {result.data && <Choosing token={token} username={result.data.username} />}
    </AuthPage>
  );
}

function Choosing({ token, username }: { token: string; username: string }) {
  const [password, setPassword] = useState("");
  const comeIn = useComeIn();
  const choose = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/password/{token}", { params: { path: { token } }, body: { password } })),
    onSuccess: (result) => (wantsMore(result) ? undefined : comeIn(result)),
  });
  if (choose.data && wantsMore(choose.data)) {
    return (
      <>
        <p role="status">{t("sign-in-password-saved-now-second-factor")}</p>
        <SecondStep factors={choose.data.ways} onIn={(session) => void comeIn(session)} />
      </>
    );
  }
  return (
    <AuthForm says={t("sign-in-save-sign")} busy={choose.isPending} error={choose.error} onSend={() => choose.mutate()}>
      <TextField label={t("common-username")} value={username} onChange={() => {}} readOnly autoComplete="username" />
      <TextField
        label={t("common-new-password-least-ten-characters")}
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="new-password"
        required
      />
    </AuthForm>
  );
}
