import type { ComponentProps } from "react";
import { Link } from "react-router";

const BASE = "inline-flex min-h-11 items-center justify-center gap-2 rounded-sm border px-4 font-medium";
const STRONG = "bg-ink text-paper border-ink";
const QUIET = "bg-sheet text-ink border-rule hover:border-ink";
const PRESSED = "aria-pressed:bg-ink aria-pressed:text-paper aria-pressed:border-ink";

type Props = ComponentProps<"button"> & { strong?: boolean; keyName?: string };

/** A button of at least 44 px; `keyName` shows the key that does the same. */
export function Button({ strong = false, keyName, className = "", children, ...rest }: Props) {
  return (
    <button
      type="button"
      className={`${BASE} disabled:opacity-50 ${strong ? STRONG : `${QUIET} ${PRESSED}`} ${className}`}
      {...rest}
    >
      {children}
      {keyName && <KeyCap>{keyName}</KeyCap>}
    </button>
  );
}

type LinkProps = ComponentProps<typeof Link> & { strong?: boolean };

/** A link to another page that looks like a button. */
export function LinkButton({ strong = false, className = "", ...rest }: LinkProps) {
  return <Link className={`${BASE} ${strong ? STRONG : QUIET} ${className}`} {...rest} />;
}

/** The same for a file or an external page. */
export function FileButton({ className = "", children, ...rest }: ComponentProps<"a">) {
  return (
    <a className={`${BASE} ${QUIET} ${className}`} {...rest}>
      {children}
    </a>
  );
}

/** The key that does the same as the control next to it. */
export function KeyCap({ children }: { children: string }) {
  return (
    // biome-ignore lint/a11y/noAriaHiddenOnFocusable: a kbd takes no focus
    <kbd
      aria-hidden="true"
      className="rounded-sm border border-current px-1.5 font-sans text-xs leading-5 font-semibold"
    >
      {children}
    </kbd>
  );
}
