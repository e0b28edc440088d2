import { type ReactNode, useId } from "react";

type Props = {
  title: string;
  says?: string;
  /** The content takes the full width. */
  wide?: boolean;
  children?: ReactNode;
};

/** A section with a heading and one line about its purpose. */
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
