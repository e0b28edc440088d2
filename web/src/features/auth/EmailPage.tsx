import { useMutation } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { LinkButton } from "../../shared/ui/Button";
import { Door, DoorForm } from "./Door";

/** The page behind a link in an email: one press confirms the address; opening it changes nothing. */
export function EmailPage() {
  const token = useParams().token ?? "";
  const prove = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/email/{token}", { params: { path: { token } } })),
  });
  return (
    <Door title={t("Is this your address?")} error={null}>
      {prove.data ? (
        <>
          <p role="status">{t("We will now write to {address}.", { address: prove.data.address })}</p>
          <LinkButton to="/">{t("Go to students")}</LinkButton>
        </>
      ) : (
        <DoorForm says={t("Confirm address")} busy={prove.isPending} error={prove.error} onSend={() => prove.mutate()}>
          <p className="text-soft">{t("Account notices and password links are sent here.")}</p>
        </DoorForm>
      )}
    </Door>
  );
}
