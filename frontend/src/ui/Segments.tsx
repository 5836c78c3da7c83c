import { ToggleGroup } from "radix-ui";
import { useId } from "react";

import type { ChoiceProps } from "./Choice";

/** A choice between a few, all in view. */
export function Segments<V extends string>({ label, value, options, onChange }: ChoiceProps<V>) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className="mb-1 block text-soft">
        {label}
      </span>
      <ToggleGroup.Root type="single" value={value} aria-labelledby={id} onValueChange={(v) => v && onChange(v as V)} className="flex flex-wrap gap-2">
        {options.map((o) => (
          <ToggleGroup.Item
            key={o.value}
            value={o.value}
            className="min-h-12 rounded-[5px] border-2 border-strong bg-sheet px-4 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-on-ink"
          >
            {o.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
