import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { account, useAccountActions } from "../../api/account";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { ConfirmFirst } from "../../shared/ui/ConfirmFirst";
import { TextField } from "../../shared/ui/Field";
import { Section } from "../../shared/ui/Section";

/** The email address for notices and password links, if the server sends email. */
export function OwnMail() {
  const has = useQuery(account.has).data;
  const { askForAddress, forgetAddress } = useAccountActions();
  const [address, setAddress] = useState("");
  if (!has) return null;
  if (!has.mails) {
    return <Section title={t("common-email")} says={t("account-server-sends-no-email-if")} />;
  }
  return (
    <Section
      title={t("common-email")}
      says={
        has.email
          ? t("account-account-notices-password-links-go", { address: has.email })
          : t("account-address-get-sign-notices-can")
      }
    >
      <form
        className="flex w-full items-end gap-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          askForAddress.mutate(address);
        }}
      >
        <TextField
          className="grow"
          label={has.email ? t("account-use-another-address") : t("account-email-address")}
          type="email"
          value={address}
          onChange={setAddress}
          autoComplete="email"
          required
        />
        <Button type="submit" disabled={askForAddress.isPending}>
          {t("account-send-confirmation")}
        </Button>
      </form>
      <p role="status">{askForAddress.isSuccess && t("account-open-link-email-within-day")}</p>
      {has.email && <Button onClick={() => forgetAddress.mutate()}>{t("account-remove-address")}</Button>}
      <ConfirmFirst operation={askForAddress} again={() => askForAddress.mutate(address)} />
      <ConfirmFirst operation={forgetAddress} again={() => forgetAddress.mutate()} />
    </Section>
  );
}
