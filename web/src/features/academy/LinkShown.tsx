import { useState } from "react";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { Callout } from "../../shared/ui/Callout";

/** A link that is shown only once. */
export function LinkShown({ path, says }: { path: string; says: string }) {
  const address = `${location.origin}${path}`;
  const [copied, setCopied] = useState(false);
  return (
    <Callout as="div" tone="straw" className="mt-3">
      <p>{says}</p>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <code className="font-mono break-all select-all">{address}</code>
        {navigator.clipboard && (
          <Button onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
            {copied ? t("common-copied") : t("common-copy-link")}
          </Button>
        )}
      </p>
    </Callout>
  );
}
