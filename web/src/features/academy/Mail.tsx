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
    return <Section title={t("common-email")} says={t("academy-email-off-whoever-runs-server")} />;
  }
  return (
    <Section title={t("common-email")} says={t("academy-sent", { how: academy.mail })}>
      <form
        className="flex w-full items-end gap-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          tryMail.mutate(to);
        }}
      >
        <TextField
          className="grow"
          label={t("academy-send-test-email")}
          type="email"
          value={to}
          onChange={setTo}
          required
        />
        <Button type="submit" disabled={tryMail.isPending}>
          {t("academy-send-test")}
        </Button>
      </form>
      <p role="status">{tryMail.isSuccess && t("academy-mail-server-accepted-check-whether")}</p>
      {tryMail.isError && <Notice error={tryMail.error} />}
    </Section>
  );
}
