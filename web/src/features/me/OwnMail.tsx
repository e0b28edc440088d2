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
    return (
      <Section
        title={t("Email")}
        says={t("This server sends no email. If you lose your password, your head coach can give you a link.")}
      />
    );
  }
  return (
    <Section
      title={t("Email")}
      says={
        has.email
          ? t("Account notices and password links go to {address}.", { address: has.email })
          : t("With an address, you get sign-in notices and can reset your password yourself.")
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
          label={has.email ? t("Use another address") : t("Your email address")}
          type="email"
          value={address}
          onChange={setAddress}
          autoComplete="email"
          required
        />
        <Button type="submit" disabled={askForAddress.isPending}>
          {t("Send confirmation")}
        </Button>
      </form>
      <p role="status">
        {askForAddress.isSuccess && t("Open the link in the email within a day to confirm the address.")}
      </p>
      {has.email && <Button onClick={() => forgetAddress.mutate()}>{t("Remove address")}</Button>}
      <ConfirmFirst deed={askForAddress} again={() => askForAddress.mutate(address)} />
      <ConfirmFirst deed={forgetAddress} again={() => forgetAddress.mutate()} />
    </Section>
  );
}
