import type { Home } from "../../api/records";
import { Callout } from "../../shared/ui/Callout";

/** Practice is stopped, and why; only the coach lifts it. */
export function Pain({ region, home }: { region: string; home: Home }) {
  const where = home.words.region[region]?.toLowerCase() ?? region;
  return (
    <Callout as="section" tone="plum" role="alert" aria-label="Practice is stopped">
      <h2 className="text-2xl font-bold text-plum">Practice is stopped</h2>
      <p className="mt-2 text-lg">
        You reported pain in the {where}. Pain is not part of the change, and practising through it can make it worse.
      </p>
      <p className="mt-2">{home.not_medical}</p>
      <p className="mt-2 font-semibold">Talk to {home.page.coach} before you go on. The plan opens again from there.</p>
    </Callout>
  );
}
