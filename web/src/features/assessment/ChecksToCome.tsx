import type { Check } from "../../api/queries";
import { t } from "../../shared/format/language";
import { worthOf } from "../../shared/format/worth";
import { ChooseOne } from "../../shared/ui/Field";
import { Meter } from "../../shared/ui/Meter";
import { CHECK_ORDERS, type CheckOrder } from "./checks";

type Props = {
  checks: Check[];
  current?: string;
  gains: ReadonlyMap<string, number>;
  order: CheckOrder;
  onOrder: (order: CheckOrder) => void;
  onOpen: (id: string) => void;
};

const SHOWN = 6;

/** The remaining checks and how useful each would be. */
export function ChecksToCome({ checks, current, gains, order, onOrder, onOpen }: Props) {
  const most = Math.max(...gains.values(), 0.01);
  const place = checks.findIndex((c) => c.id === current);
  const from = Math.max(0, Math.min(place - SHOWN + 2, checks.length - SHOWN));
  return (
    <section aria-label={t("check-next-checks")}>
      <ChooseOne
        label={t("check-order-checks")}
        options={CHECK_ORDERS}
        value={order}
        onChange={(v) => v && onOrder(v as CheckOrder)}
      />
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {checks.slice(from, from + SHOWN).map((check) => {
          const gain = gains.get(check.id) ?? 0;
          return (
            <li key={check.id}>
              <button
                type="button"
                aria-current={check.id === current}
                onClick={() => onOpen(check.id)}
                className={`grid min-h-11 w-full grid-cols-[1fr_6rem] items-center gap-3 px-2 py-1 text-left hover:bg-sheet ${check.id === current ? "bg-straw-ground" : ""}`}
              >
                <span>
                  {check.label} <span className="text-sm text-soft">{check.moment}</span>
                </span>
                <Meter share={gain / most} label={worthOf(gain, most)} tone="moss" />
              </button>
            </li>
          );
        })}
      </ul>
      {checks.length > SHOWN && (
        <p className="mt-1 text-sm text-soft">{t("check-checks-open-bar-shows-how", { n: checks.length })}</p>
      )}
    </section>
  );
}
