import { useMutation } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { LinkButton } from "../../shared/ui/Button";
import { AuthForm, AuthPage } from "./AuthForm";

/** The page behind a link in an email: one press confirms the address; opening it changes nothing. */
export function EmailPage() {
  const token = useParams().token ?? "";
  const prove = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/email/{token}", { params: { path: { token } } })),
  });
  return (
    <AuthPage title={t("sign-in-address")} error={null}>
      {prove.data ? (
        <>
          <p role="status">{t("sign-in-we-will-now-write", { address: prove.data.address })}</p>
          <LinkButton to="/">{t("sign-in-go-students")}</LinkButton>
        </>
      ) : (
        <AuthForm
          says={t("sign-in-confirm-address")}
          busy={prove.isPending}
          error={prove.error}
          onSend={() => prove.mutate()}
        >
          <p className="text-soft">{t("sign-in-account-notices-password-links-sent")}</p>
        </AuthForm>
      )}
    </AuthPage>
  );
}
