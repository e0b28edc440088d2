import type { ComponentPropsWithRef, ElementType } from "react";

const TONES = {
  plum: "border-plum bg-plum-ground text-plum",
  straw: "border-straw bg-straw-ground",
  clay: "border-clay bg-clay-ground",
  moss: "border-moss bg-moss-ground",
};
export type Tone = keyof typeof TONES;

type Props<As extends ElementType> = { as?: As; tone: Tone; className?: string } & Omit<
  ComponentPropsWithRef<As>,
  "as" | "className"
>;

/** A message box: plum for errors, yellow for information, clay for actions, moss for success. */
export function Callout<As extends ElementType = "p">({ as, tone, className = "", ...rest }: Props<As>) {
  const Element: ElementType = as ?? "p";
  return <Element className={`border-l-4 px-3 py-2 ${TONES[tone]} ${className}`} {...rest} />;
}
