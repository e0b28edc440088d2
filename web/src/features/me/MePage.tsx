import { useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { roleMay, roleName } from "../../shared/format/roles";
import { Heard } from "./Heard";
import { OwnEye } from "./OwnEye";
import { OwnMail } from "./OwnMail";
import { OwnPassword } from "./OwnPassword";
import { OwnSettings } from "./OwnSettings";
import { SecondFactor } from "./SecondFactor";
import { SignedIn } from "./SignedIn";

/** The coach's account page: preferences left, sign-in right. */
export function MePage() {
  const session = useSession();
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-6">
      <h1 className="text-2xl font-bold">{session.name}</h1>
      <p className="text-soft">
        {t("account-signed-2", {
          role: roleName(session.role),
          academy: session.academy,
          username: session.username,
        })}{" "}
        {roleMay(session.role)}
      </p>
      <div className="mt-6 grid items-start gap-x-12 gap-y-8 lg:grid-cols-2">
        <div className="flex flex-col gap-8">
          <Heard />
          <OwnSettings />
        </div>
        <div className="flex flex-col gap-8">
          {session.role !== "desk" && <OwnEye />}
          <SecondFactor />
          <OwnPassword />
          <OwnMail />
          <SignedIn />
        </div>
      </div>
    </main>
  );
}
