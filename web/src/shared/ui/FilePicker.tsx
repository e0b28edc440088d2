import { useEffect, useRef } from "react";

import { Button } from "./Button";

type Props = {
  /** Opened for this purpose: the next key press opens the picker. */
  expected?: boolean;
  label: string;
  accept: string;
  pending?: boolean;
  /** Several files may be chosen; each is passed on its own. */
  many?: boolean;
  strong?: boolean;
  children: string;
  onFile: (file: File) => void;
};

/** A button that picks one or several files; the same file can be chosen twice. */
export function FilePicker({
  label,
  accept,
  pending = false,
  many = false,
  strong = false,
  expected = false,
  children,
  onFile,
}: Props) {
  const input = useRef<HTMLInputElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (expected) button.current?.focus();
  }, [expected]);
  return (
    <>
      <Button
        ref={button}
        strong={strong}
        disabled={pending}
        onClick={() => input.current?.click()}
        className="self-start"
      >
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        multiple={many}
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          for (const file of files) onFile(file);
        }}
      />
    </>
  );
}
