import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { account, useAccountActions } from "../../api/account";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { ConfirmFirst } from "../../shared/ui/ConfirmFirst";
import { TextField } from "../../shared/ui/Field";
import { Section } from "../../shared/ui/Section";

/** Where notices and links for a lost password go; nowhere, where the installation sends no mail. */
export function OwnMail() {
  const has = useQuery(account.has).data;
  const { askForAddress, forgetAddress } = useAccountActions();
  const [address, setAddress] = useState("");
  if (!has) return null;
  if (!has.mails) {
    return (
      <Section
        title={t("E-mail")}
        says={t("This installation sends none: a lost password is helped by a link that the head coach hands over.")}
      />
    );
  }
  return (
    <Section
      title={t("E-mail")}
      says={
        has.email
          ? t("Notices and links for a lost password go to {address}.", { address: has.email })
          : t("With an address you hear of sign-ins there, and help yourself when the password is lost.")
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
          label={has.email ? t("Another address") : t("Your address")}
          type="email"
          value={address}
          onChange={setAddress}
          autoComplete="email"
          required
        />
        <Button type="submit" disabled={askForAddress.isPending}>
          {t("Send a letter there")}
        </Button>
      </form>
      <p role="status">
        {askForAddress.isSuccess && t("Open the link in the letter within a day: then the address counts.")}
      </p>
      {has.email && <Button onClick={() => forgetAddress.mutate()}>{t("Write to me no more")}</Button>}
      <ConfirmFirst deed={askForAddress} again={() => askForAddress.mutate(address)} />
      <ConfirmFirst deed={forgetAddress} again={() => forgetAddress.mutate()} />
    </Section>
  );
}
