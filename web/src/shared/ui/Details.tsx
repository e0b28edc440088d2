import type { ReactNode } from "react";

/** What only some readers want: closed until its line is clicked. */
export function Details({ summary, children }: { summary: string; children: ReactNode }) {
  return (
    <details className="mt-1">
      <summary className="min-h-11 cursor-pointer py-2 text-soft">{summary}</summary>
      {children}
    </details>
  );
}
