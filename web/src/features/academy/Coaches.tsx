import { useQuery } from "@tanstack/react-query";
import { type Coach, people, usePeopleActions } from "../../api/people";
import { useSession } from "../../api/queries";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { ROLES } from "../../shared/format/roles";
import { Button } from "../../shared/ui/Button";
import { ConfirmFirst } from "../../shared/ui/ConfirmFirst";
import { Notice } from "../../shared/ui/Notice";
import { Select } from "../../shared/ui/Select";
import { LinkShown } from "./LinkShown";

/** All current and former team members. */
export function Coaches() {
  const coaches = useQuery(people.coaches);
  const { change, passwordLink, liftFactors, signOut } = usePeopleActions();
  if (coaches.isError) return <Notice error={coaches.error} />;
  const asked = coaches.data?.find((coach) => coach.id === passwordLink.variables);
  return (
    <section aria-labelledby="who-works-here">
      <h2 id="who-works-here" className="text-xl font-bold">
        {t("academy-team")}
      </h2>
      <ul className="mt-2 divide-y divide-rule border-y border-rule">
        {coaches.data?.map((coach) => (
          <CoachRow
            key={coach.id}
            coach={coach}
            onRole={(role) => change.mutate({ id: coach.id, role })}
            onLeft={(left) => change.mutate({ id: coach.id, left })}
            onPassword={() => passwordLink.mutate(coach.id)}
            onPhoneLost={() => liftFactors.mutate(coach.id)}
            onSignOut={() => signOut.mutate(coach.id)}
          />
        ))}
      </ul>
      {change.isError && <Notice error={change.error} />}
      <ConfirmFirst operation={passwordLink} again={() => passwordLink.mutate(passwordLink.variables ?? 0)} />
      <ConfirmFirst operation={signOut} again={() => signOut.mutate(signOut.variables ?? 0)} />
      <ConfirmFirst operation={liftFactors} again={() => liftFactors.mutate(liftFactors.variables ?? 0)} />
      {passwordLink.data && asked && (
        <LinkShown
          path={passwordLink.data.path}
          says={t("academy-link-can-choose-new-password", {
            name: asked.name,
          })}
        />
      )}
    </section>
  );
}

type RowProps = {
  coach: Coach;
  onRole: (role: string) => void;
  onLeft: (left: boolean) => void;
  onPassword: () => void;
  onPhoneLost: () => void;
  onSignOut: () => void;
};

function CoachRow({ coach, onRole, onLeft, onPassword, onPhoneLost, onSignOut }: RowProps) {
  const clock = useClock();
  const me = useSession().username === coach.username;
  const name = { name: coach.name };
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 py-2">
      <div className={coach.left_at ? "text-soft" : ""}>
        <span className="font-semibold">{coach.name}</span> <span className="text-soft">{coach.username}</span>
        {me && <span className="text-soft"> {t("academy-you")}</span>}
        <p className="text-sm text-soft">
          {t("academy-lessons", { n: coach.lesson_count ?? 0 })},{" "}
          {coach.left_at
            ? t("academy-deactivated", { moment: clock.moment(coach.left_at) })
            : coach.last_login
              ? t("academy-last-sign", { moment: clock.moment(coach.last_login) })
              : t("academy-never-signed")}
          {coach.second_factor ? t("academy-second-factor") : !coach.left_at && t("academy-password-only")}
        </p>
      </div>
      <div className="flex flex-wrap justify-end gap-2">
        {coach.left_at ? (
          <Button aria-label={t("academy-reactivate-2", name)} onClick={() => onLeft(false)}>
            {t("academy-reactivate")}
          </Button>
        ) : (
          <>
            <Select
              name={t("academy-role-2", name)}
              value={coach.role}
              options={ROLES.map((role) => ({ id: role.id, label: t(role.label) }))}
              onChange={onRole}
            />
            <Button aria-label={t("common-new-password", name)} onClick={onPassword}>
              {t("academy-new-password")}
            </Button>
            {coach.second_factor && !me && (
              <Button aria-label={t("academy-lost-phone-2", name)} onClick={onPhoneLost}>
                {t("academy-lost-phone")}
              </Button>
            )}
            {!me && (
              <Button aria-label={t("academy-sign-out-everywhere", name)} onClick={onSignOut}>
                {t("common-sign-out")}
              </Button>
            )}
            <Button aria-label={t("academy-deactivate-2", name)} onClick={() => onLeft(true)}>
              {t("academy-deactivate")}
            </Button>
          </>
        )}
      </div>
    </li>
  );
}
