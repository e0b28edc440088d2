import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { people, usePeopleActions } from "../../api/people";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { ROLES, roleMay, roleName } from "../../shared/format/roles";
import { Button } from "../../shared/ui/Button";
import { ChooseOne, TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { LinkShown } from "./LinkShown";

/** Invite someone by a link; open links can be revoked. */
export function Invitations() {
  const clock = useClock();
  const open = useQuery(people.invitations);
  const { invite, takeBack } = usePeopleActions();
  const [name, setName] = useState("");
  const [role, setRole] = useState("coach");
  function send(event: FormEvent) {
    event.preventDefault();
    invite.mutate({ name, role }, { onSuccess: () => setName("") });
  }
  return (
    <section aria-labelledby="invite">
      <h2 id="invite" className="text-xl font-bold">
        {t("academy-invite-someone")}
      </h2>
      <form className="mt-2 flex flex-col gap-3" onSubmit={send}>
        <TextField label={t("common-name")} value={name} onChange={setName} required maxLength={120} />
        <ChooseOne label={t("academy-role")} options={ROLES} value={role} onChange={(next) => setRole(next || role)} />
        <p className="text-sm text-soft">{roleMay(role)}</p>
        <Button type="submit" strong disabled={invite.isPending}>
          {t("common-create-link")}
        </Button>
      </form>
      {invite.isError && <Notice error={invite.error} />}
      {invite.data && <LinkShown path={invite.data.path} says={t("academy-send-link-new-team-member")} />}
      <ul className="mt-3">
        {open.data?.map((invitation) => (
          <li key={invitation.id} className="flex min-h-12 items-center justify-between gap-3 border-t border-rule">
            <span>
              {t("academy-until", {
                name: invitation.name,
                role: roleName(invitation.role),
                moment: clock.moment(invitation.expires_at),
              })}
            </span>
            <Button
              className="shrink-0"
              aria-label={t("academy-revoke-invitation", { name: invitation.name })}
              onClick={() => takeBack.mutate(invitation.id)}
            >
              {t("common-revoke")}
            </Button>
          </li>
        ))}
      </ul>
      {takeBack.isError && <Notice error={takeBack.error} />}
    </section>
  );
}
