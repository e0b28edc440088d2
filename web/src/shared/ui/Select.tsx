import { type ReactNode, useId } from "react";
import { t } from "../format/language";

/** `about` precedes the choice in the open list and takes no space in the closed one. */
export type Choice = { id: string; label: string; about?: string };

const VARIANTS = {
  box: "border border-rule bg-sheet px-2",
  bar: "bg-transparent font-medium",
};

type Props = {
  options: Choice[];
  value: string;
  onChange: (value: string) => void;
  /** Label above a box, or beside a bar; `name` is for one without a visible label. */
  label?: ReactNode;
  name?: string;
  variant?: keyof typeof VARIANTS;
  /** Returns the focus to the balls after a choice. */
  letsGo?: boolean;
  disabled?: boolean;
  title?: string;
  className?: string;
  labelClass?: string;
};

/** One of many, with the device's own picker. */
export function Select({
  options,
  value,
  onChange,
  label,
  name,
  variant = "box",
  letsGo,
  className = "",
  ...rest
}: Props) {
  const { labelClass = "", ...others } = rest;
  const id = useId();
  const pick = (
    <select
      id={id}
      aria-label={name}
      value={value}
      onChange={(event) => {
        onChange(event.target.value);
        if (letsGo) event.target.blur();
      }}
      className={`min-h-11 rounded-sm text-ink ${VARIANTS[variant]} ${className}`}
      {...others}
    >
      {options.map((option) => {
        const choice = (
          <option key={option.id} value={option.id} className="bg-sheet text-ink">
            {t(option.label)}
          </option>
        );
        if (!option.about) return choice;
        return (
          <optgroup key={option.id} label={option.about} className="bg-sheet text-soft">
            {choice}
          </optgroup>
        );
      })}
    </select>
  );
  if (label === undefined) return pick;
  return (
    <span className={variant === "box" ? "flex flex-col gap-1" : "flex items-center gap-1.5"}>
      <label htmlFor={id} className={`text-sm text-soft ${labelClass}`}>
        {label}
      </label>
      {pick}
    </span>
  );
}
