import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { queries } from "../../api/queries";
import { fixed, t } from "../../shared/format/language";
import { LinkButton } from "../../shared/ui/Button";
import { Notice } from "../../shared/ui/Notice";
import { Section } from "../../shared/ui/Section";

/** The coach's answers compared with measured ones; shown to nobody else. */
export function OwnEye() {
  const eye = useQuery(queries.eye);
  return (
    <Section title={t("account-accuracy")} says={t("account-answers-compared-what-belts-mats")}>
      {eye.isError && <Notice error={eye.error} />}
      {eye.data?.length === 0 && <p className="text-soft">{t("account-nothing-compare-yet-answer-checks")}</p>}
      <div className="flex flex-wrap gap-2">
        <LinkButton to="/eye">{t("account-practice-made-up-swings")}</LinkButton>
        <LinkButton to="/train">{t("common-practice-lessons")}</LinkButton>
      </div>
      {eye.data && eye.data.length > 0 && (
        <table className="w-full text-left [&_:is(td,th)]:pr-3">
          <thead className="text-sm text-soft">
            <tr>
              <th className="py-1 font-normal">{t("common-check")}</th>
              <th className="py-1 font-normal">{t("account-measured")}</th>
              <th className="py-1 font-normal">{t("account-faults-found")}</th>
              <th className="py-1 font-normal">{t("account-false-alarms")}</th>
              <th className="py-1 font-normal">{t("common-practice")}</th>
              <th className="py-1 font-normal">{t("account-counts")}</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-rule border-y border-rule">
            {eye.data.map((row) => (
              <Row key={row.check} row={row} />
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}

function Row({ row }: { row: Schemas["EyeRow"] }) {
  const of = (n: number, all: number) => (all === 0 ? "–" : t("account-of", { n, all }));
  return (
    <tr>
      <th scope="row" className="py-2 font-semibold">
        {row.label}
      </th>
      <td>{of(row.same, row.both)}</td>
      <td>{of(row.hits, row.faults)}</td>
      <td>{of(row.false_alarms, row.sound)}</td>
      <td>
        {of(row.practised_same, row.practised)}
        {row.practised_seconds !== null && (
          <span className="text-sm text-soft"> {t("account-s", { seconds: fixed(row.practised_seconds, 1) })}</span>
        )}
      </td>
      <td>{t("account-share", { share: Math.round(100 * (1 - row.says_nothing)) })}</td>
    </tr>
  );
}
