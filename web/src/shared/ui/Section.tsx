import { type ReactNode, useId } from "react";

type Props = {
  title: string;
  says?: string;
  /** What is in it takes the whole width. */
  wide?: boolean;
  children?: ReactNode;
};

/** A part of a page under a heading of its own, with one line of what it is for. */
export function Section({ title, says, wide = false, children }: Props) {
  const id = useId();
  return (
    <section aria-labelledby={id}>
      <h2 id={id} className="text-xl font-bold">
        {title}
      </h2>
      {says && <p className="text-soft">{says}</p>}
      {children && <div className={`mt-3 flex flex-col gap-3 ${wide ? "" : "items-start"}`}>{children}</div>}
    </section>
  );
}
