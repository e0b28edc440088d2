import { Problems } from "../../api/client";
import { t } from "../format/language";
import { Callout } from "./Callout";

/** The server's error messages, each with its field. */
export function Notice({ error }: { error: Error }) {
  const list = error instanceof Problems && error.list.length ? error.list : [{ field: "", message: error.message }];
  return (
    <Callout as="div" role="alert" tone="plum">
      {list.slice(0, 8).map((problem, i) => (
        <p key={i}>
          {"line" in problem && problem.line ? t("common-line", { line: problem.line }) : ""}
          {problem.message}
        </p>
      ))}
      {list.length > 8 && <p>{t("common-more", { n: list.length - 8 })}</p>}
    </Callout>
  );
}
