import { Check } from "lucide-react";
import { Checkbox } from "radix-ui";
import { useId, type ReactNode } from "react";

/** A box to tick, of touch size, its words beside it; `quiet` where they are for readers of the screen only. */
export function Tick({ label, on, onChange, disabled = false, quiet = false }: { label: ReactNode; on: boolean; onChange: (on: boolean) => void; disabled?: boolean; quiet?: boolean }) {
  const id = useId();
  return (
    <span className="flex min-h-12 items-center gap-1">
      {/* The box is smaller than what a glove hits: the button reaches round it. */}
      <Checkbox.Root id={id} checked={on} disabled={disabled} onCheckedChange={(v) => onChange(v === true)} className="group -ml-2 grid size-12 flex-none place-items-center disabled:opacity-50">
        <span className="grid size-8 place-items-center rounded-[5px] border-[3px] border-strong group-data-[state=checked]:border-green group-data-[state=checked]:bg-green-wash group-data-[state=checked]:text-green">
          <Checkbox.Indicator>
            <Check size={20} strokeWidth={3} aria-hidden />
          </Checkbox.Indicator>
        </span>
      </Checkbox.Root>
      <label htmlFor={id} className={quiet ? "sr-only" : "min-w-0 flex-1 py-2"}>
        {label}
      </label>
    </span>
  );
}
