import { ToggleGroup } from "radix-ui";
import { t } from "../format/language";

type Props = { label: string; tabs: { id: string; label: string }[]; value: string; onChange: (id: string) => void };

/** Tabs: exactly one is selected. */
export function Tabs({ label, tabs, value, onChange }: Props) {
  return (
    <ToggleGroup.Root
      type="single"
      value={value}
      onValueChange={(next) => next && onChange(next)}
      aria-label={t(label)}
      className="flex flex-wrap gap-5 border-b border-rule"
    >
      {tabs.map((tab) => (
        <ToggleGroup.Item
          key={tab.id}
          value={tab.id}
          className="-mb-px min-h-11 border-b-2 border-transparent px-1 text-soft hover:text-ink data-[state=on]:border-clay data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {t(tab.label)}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
