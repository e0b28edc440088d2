import { useState } from "react";
import { useOwnSettings } from "../../api/account";
import { useSession } from "../../api/queries";
import { t } from "../../shared/format/language";
import { clickerOf, keyName } from "../../shared/format/verdict";
import { Button, KeyCap } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

const ACTIONS = [
  { id: "done", label: "account-movement-done" },
  { id: "partly", label: "account-partly-done" },
  { id: "missed", label: "account-movement-missed" },
];
/** Keys that the screen needs itself. */
const NEVER = ["Escape", "Tab", "Enter", "Shift", "Control", "Alt", "Meta", "CapsLock", "Unidentified", "Dead"];
const ours = (key: string) => !NEVER.includes(key) && !/^[\p{L}\p{N}]$/u.test(key);

/** The meaning of each clicker key; a key is set by pressing it. */
export function ClickerKeys() {
  const session = useSession();
  const clicker = clickerOf(session.clicker);
  const [waits, setWaits] = useState("");
  const keep = useOwnSettings();
  function heard(key: string, action: string) {
    setWaits("");
    const others = Object.entries(clicker).filter(([k, d]) => k !== key && d !== action);
    keep.mutate({ clicker: { ...Object.fromEntries(others), [key]: action } });
  }
  return (
    <Section title={t("account-clicker")} says={t("account-select-line-press-key-clicker")}>
      <ul className="w-full divide-y divide-rule border-y border-rule">
        {ACTIONS.map(({ id, label }) => {
          const keys = Object.keys(clicker).filter((key) => clicker[key] === id);
          return (
            <li key={id} className="flex items-center justify-between gap-3 py-1">
              <span>{t(label)}</span>
              <span className="flex items-center gap-2">
                {waits !== id && keys.map((key) => <KeyCap key={key}>{keyName(key)}</KeyCap>)}
                <span className="sr-only">{keys.map(keyName).join(", ")}</span>
                <Button
                  aria-pressed={waits === id}
                  aria-label={t("account-change-key-2", { action: t(label) })}
                  onClick={() => setWaits(waits === id ? "" : id)}
                  onKeyDown={(event) => {
                    if (waits !== id || !ours(event.key)) return;
                    event.preventDefault();
                    heard(event.key, id);
                  }}
                >
                  {waits === id ? t("account-press-key") : t("account-change-key")}
                </Button>
              </span>
            </li>
          );
        })}
      </ul>
      {Object.keys(session.clicker).length > 0 && (
        <Button onClick={() => keep.mutate({ clicker: {} })}>{t("account-reset-keys")}</Button>
      )}
      {keep.isError && <Notice error={keep.error} />}
    </Section>
  );
}
