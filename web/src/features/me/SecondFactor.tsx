import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { type Account, account, useAccountActions } from "../../api/account";
import { passkeysWork } from "../../api/passkeys";
import { useClock } from "../../api/useClock";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";
import { ConfirmFirst } from "../../shared/ui/ConfirmFirst";
import { TextField } from "../../shared/ui/Field";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

/** Second factors and recovery codes. */
export function SecondFactor() {
  const has = useQuery(account.has);
  const [codes, setCodes] = useState<string[]>([]);
  // A factor beside others brings no codes: those that are shown stay until they are kept.
  const onCodes = (fresh: string[]) => fresh.length > 0 && setCodes(fresh);
  if (has.isError) return <Notice error={has.error} />;
  if (!has.data) return null;
  const protectedNow = has.data.app_since !== null || has.data.passkeys.length > 0;
  return (
    <Section
      title={t("account-second-factor")}
      says={protectedNow ? t("account-need-sign-password-alone-not") : t("account-none-yet-anyone-password-can")}
    >
      <App has={has.data} onCodes={onCodes} />
      <Passkeys has={has.data} onCodes={onCodes} />
      {codes.length > 0 && <CodesShown codes={codes} onSaved={() => setCodes([])} />}
      {protectedNow && <Codes has={has.data} onCodes={onCodes} />}
    </Section>
  );
}

type Props = { has: Account; onCodes: (codes: string[]) => void };

function App({ has, onCodes }: Props) {
  const clock = useClock();
  const { beginApp, addApp, removeApp } = useAccountActions();
  const [code, setCode] = useState("");
  function add() {
    addApp.mutate(code, {
      onSuccess: (result) => {
        beginApp.reset();
        onCodes(result.codes);
      },
    });
  }
  if (has.app_since) {
    return (
      <Line says={t("account-authenticator-app-since", { moment: clock.moment(has.app_since) })}>
        <Button disabled={removeApp.isPending} onClick={() => removeApp.mutate()}>
          {t("account-remove-app")}
        </Button>
        <ConfirmFirst operation={removeApp} again={() => removeApp.mutate()} />
      </Line>
    );
  }
  if (!beginApp.data) {
    return (
      <>
        <Button disabled={beginApp.isPending} onClick={() => beginApp.mutate()}>
          {t("account-set-up-authenticator-app")}
        </Button>
        <ConfirmFirst operation={beginApp} again={() => beginApp.mutate()} />
      </>
    );
  }
  return (
    <div className="grid w-full gap-4 border-y border-rule py-3 sm:grid-cols-[auto_minmax(0,1fr)]">
      <img src={beginApp.data.picture} alt={t("account-qr-code-secret")} className="h-44 w-44 bg-white p-1" />
      <form
        className="flex flex-col items-start gap-3"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          add();
        }}
      >
        <p className="text-sm text-soft">{t("account-scan-app-type-secret")}</p>
        <code className="font-mono text-sm break-all select-all">{beginApp.data.secret}</code>
        <TextField
          label={t("account-current-code")}
          value={code}
          onChange={setCode}
          inputMode="numeric"
          autoComplete="one-time-code"
          required
        />
        <div className="flex gap-2">
          <Button type="submit" strong disabled={addApp.isPending}>
            {t("account-use-app")}
          </Button>
          <Button onClick={() => beginApp.reset()}>{t("common-cancel")}</Button>
        </div>
        <ConfirmFirst operation={addApp} again={add} />
      </form>
    </div>
  );
}

function Passkeys({ has, onCodes }: Props) {
  const clock = useClock();
  const { addPasskey, removePasskey } = useAccountActions();
  const [name, setName] = useState("");
  function add() {
    addPasskey.mutate(name, {
      onSuccess: (result) => {
        setName("");
        onCodes(result.codes);
      },
    });
  }
  return (
    <>
      {has.passkeys.map((key) => (
        <Line
          key={key.id}
          says={
            key.used_at
              ? t("account-passkey-last-used", { name: key.name, moment: clock.moment(key.used_at) })
              : t("account-passkey-added-2", { name: key.name, moment: clock.moment(key.added_at) })
          }
        >
          <Button
            aria-label={t("account-remove-passkey", { name: key.name })}
            onClick={() => removePasskey.mutate(key.id)}
          >
            {t("common-remove")}
          </Button>
        </Line>
      ))}
      <ConfirmFirst operation={removePasskey} again={() => removePasskey.mutate(removePasskey.variables ?? 0)} />
      {passkeysWork() ? (
        <form
          className="flex w-full items-end gap-2"
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            add();
          }}
        >
          <TextField
            className="grow"
            label={t("account-name-new-passkey-device-security")}
            value={name}
            onChange={setName}
            required
            maxLength={60}
          />
          <Button type="submit" disabled={addPasskey.isPending}>
            {t("account-add-passkey")}
          </Button>
        </form>
      ) : (
        <p className="text-sm text-soft">{t("account-passkeys-need-host-name-secure")}</p>
      )}
      <ConfirmFirst operation={addPasskey} again={add} />
    </>
  );
}

function Codes({ has, onCodes }: Props) {
  const { newCodes } = useAccountActions();
  const make = () => newCodes.mutate(undefined, { onSuccess: (result) => onCodes(result.codes) });
  return (
    <Line says={t("account-recovery-codes-left-lost-phone", { n: has.codes_left })}>
      <Button disabled={newCodes.isPending} onClick={make}>
        {t("account-create-new-codes")}
      </Button>
      <ConfirmFirst operation={newCodes} again={make} />
    </Line>
  );
}

function CodesShown({ codes, onSaved }: { codes: string[]; onSaved: () => void }) {
  const [copied, setCopied] = useState(false);
  return (
    <Callout as="div" role="status" tone="straw" className="w-full">
      <p>{t("account-recovery-codes-shown-only-now")}</p>
      <ul className="my-2 grid grid-cols-2 gap-x-6 font-mono select-all sm:grid-cols-5">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex gap-2">
        {navigator.clipboard && (
          <Button onClick={() => void navigator.clipboard.writeText(codes.join("\n")).then(() => setCopied(true))}>
            {copied ? t("common-copied") : t("account-copy-codes")}
          </Button>
        )}
        <Button onClick={onSaved}>{t("account-saved-them")}</Button>
      </div>
    </Callout>
  );
}

function Line({ says, children }: { says: string; children: React.ReactNode }) {
  return (
    <div className="flex w-full items-center justify-between gap-3 border-t border-rule pt-2">
      <span>{says}</span>
      <span className="flex shrink-0 items-center gap-2">{children}</span>
    </div>
  );
}
