import { Check, ChevronDown } from "lucide-react";
import { Select as RS } from "radix-ui";
import { useId } from "react";

import { BOX } from "./Field";

export interface Option {
  value: string;
  label: string;
  note?: string;
}

export interface ChoiceProps<V extends string> {
  label: string;
  value: V;
  /** Mostly the server's own lists, which hold the very values that its documents take. */
  options: readonly Option[];
  onChange: (v: V) => void;
}

/** A labelled choice from a list. */
export function SelectField<V extends string>({ label, value, options, onChange, placeholder = "choose", quiet = false }: ChoiceProps<V> & { placeholder?: string; quiet?: boolean }) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className={quiet ? "sr-only" : "mb-1 block text-soft"}>
        {label}
      </span>
      <RS.Root value={value} onValueChange={(v) => onChange(v as V)}>
        <RS.Trigger aria-labelledby={id} className={`${BOX} flex items-center justify-between gap-2 text-left`}>
          <span className="truncate">
            <RS.Value placeholder={<span className="text-soft">{placeholder}</span>} />
          </span>
          <ChevronDown size={18} aria-hidden />
        </RS.Trigger>
        <RS.Portal>
          <RS.Content position="popper" sideOffset={4} collisionPadding={8} className="sheet z-50 max-w-[calc(100vw-16px)] min-w-(--radix-select-trigger-width) overflow-hidden">
            <RS.Viewport className="p-1" style={{ maxHeight: "min(60vh, var(--radix-select-content-available-height))" }}>
              {options.map((o) => (
                <RS.Item
                  key={o.value}
                  value={o.value}
                  className="flex min-h-12 cursor-pointer items-center gap-2 rounded-[4px] px-3 outline-none data-highlighted:bg-green-wash"
                >
                  <RS.ItemText>{o.label}</RS.ItemText>
                  {o.note && <span className="text-note text-soft">{o.note}</span>}
                  <RS.ItemIndicator className="ml-auto">
                    <Check size={18} aria-hidden />
                  </RS.ItemIndicator>
                </RS.Item>
              ))}
            </RS.Viewport>
          </RS.Content>
        </RS.Portal>
      </RS.Root>
    </div>
  );
}
