/** A row of choices of which one holds. */
import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";
import { Tip } from "./basics";

export interface Choice<T extends string> {
  value: T;
  label: ReactNode;
  tip?: string;
}

interface Props<T extends string> {
  name: string;
  value: T;
  choices: Choice<T>[];
  onChange: (value: T) => void;
  small?: boolean;
  /** As high as others, but narrow: for long rows. */
  tight?: boolean;
}

export function Segments<T extends string>({ name, value, choices, onChange, small, tight }: Props<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={name}
      value={value}
      onValueChange={(next) => next && onChange(next as T)}
      className="inline-flex min-w-0 flex-wrap overflow-hidden rounded-md border border-line bg-card"
    >
      {choices.map((choice) => {
        const item = (
          <ToggleGroup.Item
            key={choice.value}
            value={choice.value}
            className={`border-r border-line font-medium last:border-r-0 hover:bg-well aria-checked:bg-accent-soft aria-checked:text-accent ${small ? "px-1.5 py-0.5" : tight ? "px-1.5 py-1" : "px-2 py-1"}`}
          >
            {choice.label}
          </ToggleGroup.Item>
        );
        return choice.tip ? (
          <Tip key={choice.value} text={choice.tip}>
            {item}
          </Tip>
        ) : (
          item
        );
      })}
    </ToggleGroup.Root>
  );
}
