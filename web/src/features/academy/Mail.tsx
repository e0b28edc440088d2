import { type FormEvent, useState } from "react";
import { type Academy, usePeopleActions } from "../../api/people";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

/** How email is sent, with a test. */
export function Mail({ academy }: { academy: Academy }) {
  const { tryMail } = usePeopleActions();
  const [to, setTo] = useState("");
  if (!academy.mail) {
    return (
      <Section
        title={t("Email")}
        says={t("Email is off. Whoever runs this server can set a mail server (INSTAVIS_MAIL in docs/serving.md).")}
      />
    );
  }
  return (
    <Section title={t("Email")} says={t("Sent by {how}.", { how: academy.mail })}>
      <form
        className="flex w-full items-end gap-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          tryMail.mutate(to);
        }}
      >
        <TextField
          className="grow"
          label={t("Send a test email to")}
          type="email"
          value={to}
          onChange={setTo}
          required
        />
        <Button type="submit" disabled={tryMail.isPending}>
          {t("Send test")}
        </Button>
      </form>
      <p role="status">{tryMail.isSuccess && t("The mail server accepted it. Check whether it arrives.")}</p>
      {tryMail.isError && <Notice error={tryMail.error} />}
    </Section>
  );
}
