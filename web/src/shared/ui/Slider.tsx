import { Slider as Primitive } from "radix-ui";

/** One thumb: its accessible name and its value in words. */
export type Thumb = { name: string; value: number; text: string };

type Props = {
  thumbs: Thumb[];
  min: number;
  max: number;
  step: number;
  onChange: (values: number[]) => void;
  /** A rail with a round grip, or posts over a picture with its own rail. */
  variant?: "rail" | "posts";
  className?: string;
};

const GRIPS = {
  rail: "h-6 w-6 rounded-full border-2 border-clay bg-paper",
  posts: "h-12 w-1.5 rounded-sm bg-ink before:absolute before:-inset-x-5 before:-inset-y-1 before:content-['']",
};

/** Values set by dragging or with the arrow keys; thumbs never cross. */
export function Slider({ thumbs, min, max, step, onChange, variant = "rail", className = "" }: Props) {
  return (
    <Primitive.Root
      value={thumbs.map((thumb) => thumb.value)}
      min={min}
      max={max}
      step={step}
      minStepsBetweenThumbs={1}
      onValueChange={onChange}
      // The arrow keys are the slider's while it has the focus, not the tape's.
      onKeyDown={(event) => event.stopPropagation()}
      className={`relative flex w-full touch-none items-center select-none ${className}`}
    >
      <Primitive.Track className={`h-1.5 grow rounded-full ${variant === "rail" ? "bg-rule" : ""}`} />
      {thumbs.map((thumb) => (
        <Primitive.Thumb
          key={thumb.name}
          aria-label={thumb.name}
          aria-valuetext={thumb.text}
          className={`relative block cursor-ew-resize ${GRIPS[variant]}`}
        />
      ))}
    </Primitive.Root>
  );
}
