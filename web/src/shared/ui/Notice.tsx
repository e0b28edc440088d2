import { Problems } from "../../api/client";

/** What went wrong, in the server's words: every problem with its place. */
export function Notice({ error }: { error: Error }) {
  const list = error instanceof Problems && error.list.length ? error.list : [{ field: "", message: error.message }];
  return (
    <div role="alert" className="border-l-4 border-plum bg-plum-ground px-3 py-2 text-plum">
      {list.slice(0, 8).map((problem, i) => (
        <p key={i}>
          {"line" in problem && problem.line ? `Line ${problem.line}: ` : ""}
          {problem.message}
        </p>
      ))}
      {list.length > 8 && <p>… and {list.length - 8} more.</p>}
    </div>
  );
}
