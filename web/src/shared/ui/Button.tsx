import type { ComponentProps } from "react";

type Props = ComponentProps<"button"> & { strong?: boolean; keyName?: string };

/** A button of at least 44 px; `keyName` shows the key that does the same. */
export function Button({ strong = false, keyName, className = "", children, ...rest }: Props) {
  const look = strong
    ? "bg-ink text-paper border-ink"
    : "bg-sheet text-ink border-rule hover:border-ink aria-pressed:bg-ink aria-pressed:text-paper aria-pressed:border-ink";
  return (
    <button
      type="button"
      className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-sm border px-4 font-medium disabled:opacity-50 ${look} ${className}`}
      {...rest}
    >
      {children}
      {keyName && <KeyCap>{keyName}</KeyCap>}
    </button>
  );
}

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
