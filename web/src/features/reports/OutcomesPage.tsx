import { useQuery } from "@tanstack/react-query";
import { records } from "../../api/records";
import { t } from "../../shared/format/language";
import { Notice } from "../../shared/ui/Notice";
import { TableHead } from "../../shared/ui/TableHead";

const OUTCOMES: Record<string, string> = {
  verified: "reports-verified-2",
  "not-supported": "reports-not-supported-2",
  stopped: "reports-stopped-2",
  open: "reports-still-open-2",
};

/** The academy's corrections by outcome, with small-number intervals. */
export function OutcomesPage() {
  const result = useQuery(records.outcomes);
  if (result.isError) return <Notice error={result.error} />;
  if (!result.data) return null;
  const { rows, lessons, students, corrections } = result.data;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-6">
      <h1 className="text-2xl font-bold">{t("reports-drills-worked-fault")}</h1>
      <p className="mb-4 text-soft">
        {t("reports-lessons-students-corrections-balls", {
          lessons,
          students,
          outcomes: Object.entries(OUTCOMES)
            .map(([id, label]) => `${corrections[id] ?? 0} ${t(label)}`)
            .join(", "),
        })}
      </p>
      {rows.length === 0 ? (
        <p className="max-w-prose text-lg text-soft">{t("reports-no-correction-balls-yet-close")}</p>
      ) : (
        <table className="w-full text-left">
          <caption className="sr-only">{t("reports-corrections-fault-drill")}</caption>
          <TableHead
            titles={[
              t("reports-fault"),
              t("common-drill"),
              t("reports-verified"),
              t("reports-not-supported"),
              t("reports-stopped"),
              t("reports-open-corrections"),
              t("reports-share-verified-range"),
            ]}
          />
          <tbody>
            {rows.map(({ fault_label, drill_name, outcome }) => (
              <tr key={`${outcome.fault}-${outcome.drill}`} className="border-t border-rule align-middle">
                <th scope="row" className="py-2 pr-4 font-semibold">
                  {fault_label}
                </th>
                <td className="pr-4">{drill_name}</td>
                <td className="pr-4">{outcome.verified}</td>
                <td className="pr-4">{outcome.not_supported}</td>
                <td className="pr-4 text-soft">{outcome.stopped}</td>
                <td className="pr-4 text-soft">{outcome.open}</td>
                <td className="w-72 py-2">
                  {outcome.share !== null && outcome.low !== null && outcome.high !== null && (
                    <ShareBar share={outcome.share} low={outcome.low} high={outcome.high} />
                  )}
                  <span className="text-sm text-soft">{outcome.word}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-4 max-w-prose text-sm text-soft">{t("reports-bar-90-interval-stopped-open")}</p>
    </main>
  );
}

function ShareBar({ share, low, high }: { share: number; low: number; high: number }) {
  const result = t("reports-from-to", {
    share: Math.round(100 * share),
    low: Math.round(100 * low),
    high: Math.round(100 * high),
  });
  return (
    <svg viewBox="-6 0 212 16" className="block w-full" role="img" aria-label={result}>
      <path d="M0 8H200" className="stroke-rule" strokeWidth="2" />
      <path d="M100 3V13" className="stroke-soft" />
      <path d={`M${200 * low} 8H${200 * high}`} className="stroke-slate" strokeWidth="6" opacity="0.55" />
      <circle cx={200 * share} cy="8" r="4" className="fill-slate" />
    </svg>
  );
}
