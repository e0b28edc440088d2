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
    <Section
      title={t("Your accuracy")}
      says={t(
        "Your answers compared with what belts, mats and films measured clearly. Only you see this. The ranking weighs your checks by it.",
      )}
    >
      {eye.isError && <Notice error={eye.error} />}
      {eye.data?.length === 0 && (
        <p className="text-soft">
          {t("Nothing to compare yet. Answer checks in a lesson that is also recorded by an instrument.")}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <LinkButton to="/eye">{t("Practice with made-up swings")}</LinkButton>
        <LinkButton to="/train">{t("Practice lessons")}</LinkButton>
      </div>
      {eye.data && eye.data.length > 0 && (
        <table className="w-full text-left [&_:is(td,th)]:pr-3">
          <thead className="text-sm text-soft">
            <tr>
              <th className="py-1 font-normal">{t("Check")}</th>
              <th className="py-1 font-normal">{t("As measured")}</th>
              <th className="py-1 font-normal">{t("Faults found")}</th>
              <th className="py-1 font-normal">{t("False alarms")}</th>
              <th className="py-1 font-normal">{t("Practice")}</th>
              <th className="py-1 font-normal">{t("Counts")}</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-rule border-y border-rule">
            {eye.data.map((row) => (
              <Row key={row.look} row={row} />
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}

function Row({ row }: { row: Schemas["EyeRow"] }) {
  const of = (n: number, all: number) => (all === 0 ? "–" : t("{n} of {all}", { n, all }));
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
          <span className="text-sm text-soft"> {t("{seconds} s", { seconds: fixed(row.practised_seconds, 1) })}</span>
        )}
      </td>
      <td>{t("{share} %", { share: Math.round(100 * (1 - row.says_nothing)) })}</td>
    </tr>
  );
}
