import { useEffect, useRef } from "react";

import { Button } from "./Button";

type Props = {
  /** Somebody came for this: the next key press opens it. */
  expected?: boolean;
  label: string;
  accept: string;
  pending?: boolean;
  /** Several may be chosen; each is given on its own. */
  many?: boolean;
  strong?: boolean;
  children: string;
  onFile: (file: File) => void;
};

/** A button that asks for a file, or for several; the same file may be chosen twice. */
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
