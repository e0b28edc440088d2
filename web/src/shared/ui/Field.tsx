import { ToggleGroup } from "radix-ui";
import { type ComponentProps, type ReactNode, useId } from "react";
import { t } from "../format/language";

const BOX = "min-h-11 w-full rounded-sm border border-rule bg-sheet px-3 text-ink placeholder:text-soft";

type TextProps = Omit<ComponentProps<"input">, "onChange"> & { label: string; onChange: (value: string) => void };

export function TextField({ label, onChange, className = "", ...rest }: TextProps) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-sm font-medium text-soft">
        {label}
      </label>
      <input id={id} className={BOX} onChange={(event) => onChange(event.target.value)} {...rest} />
    </div>
  );
}

type WordsProps = { label: string; defaultValue: string; onChange: (value: string) => void };

/** A text that grows with its content. */
export function WordsField({ label, defaultValue, onChange }: WordsProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-sm font-medium text-soft">
        {label}
      </label>
      <textarea
        id={id}
        defaultValue={defaultValue}
        className={`${BOX} field-sizing-content block resize-none py-2.5`}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  );
}

export type Option = { id: string; label: ReactNode };

type OneProps = {
  label: string;
  options: Option[];
  value: string;
  onChange: (value: string) => void;
  /** The label is beside the choices, where there are many. */
  beside?: boolean;
};
type ManyProps = { label: string; options: Option[]; value: string[]; onChange: (value: string[]) => void };

const CHIP =
  "min-h-11 rounded-sm border border-rule bg-sheet px-4 hover:border-ink data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-paper";

/** Choose one of a few; choosing it again clears it. */
export function ChooseOne({ label, options, value, onChange, beside }: OneProps) {
  return (
    <Row label={label} beside={beside}>
      <ToggleGroup.Root type="single" value={value} onValueChange={onChange} {...group(label)}>
        <Chips options={options} />
      </ToggleGroup.Root>
    </Row>
  );
}

/** Choose any of a few. */
export function ChooseMany({ label, options, value, onChange }: ManyProps) {
  return (
    <Row label={label}>
      <ToggleGroup.Root type="multiple" value={value} onValueChange={onChange} {...group(label)}>
        <Chips options={options} />
      </ToggleGroup.Root>
    </Row>
  );
}

/** The shared look of both kinds of choice, also for screen readers. */
const group = (label: string) => ({ "aria-label": label, className: "flex flex-wrap gap-2" });

function Chips({ options }: { options: Option[] }) {
  return options.map((option) => (
    <ToggleGroup.Item key={option.id} value={option.id} className={CHIP}>
      {typeof option.label === "string" ? t(option.label) : option.label}
    </ToggleGroup.Item>
  ));
}

function Row({ label, beside, children }: { label: string; beside?: boolean | undefined; children: ReactNode }) {
  return (
    <div className={beside ? "flex flex-wrap items-center justify-between gap-x-4" : ""}>
      <div className={`text-sm font-medium text-soft ${beside ? "" : "mb-1.5"}`}>{label}</div>
      {children}
    </div>
  );
}
