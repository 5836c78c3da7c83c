import { ChevronDown, Check } from "lucide-react";
import { Select as RS, ToggleGroup } from "radix-ui";
import { useId, useState } from "react";

const BOX = "min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet px-3 hover:border-ink";

/** A labelled line of text. */
export function TextField({
  label,
  value,
  onChange,
  long = false,
  hint,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  long?: boolean;
  hint?: string;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-soft">
        {label}
      </label>
      {long ? (
        <textarea id={id} rows={3} className={`${BOX} py-2`} value={value} onChange={(e) => onChange(e.target.value)} />
      ) : (
        <input id={id} className={BOX} value={value} placeholder={hint} onChange={(e) => onChange(e.target.value)} />
      )}
    </div>
  );
}

/** A labelled figure with its unit. What is typed stays as typed; only a number within its bounds is handed on. */
export function NumberField({
  label,
  unit,
  value,
  onChange,
  min,
  max,
  optional = false,
}: {
  label: string;
  unit: string;
  value: number | null | undefined;
  onChange: (v: number | null) => void;
  min: number;
  max: number;
  optional?: boolean;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? (value === null || value === undefined ? "" : String(value));
  const parsed = Number(text.replace(",", "."));
  const empty = text.trim() === "";
  const bad = empty ? !optional : !Number.isFinite(parsed) || parsed < min || parsed > max;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-soft">
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          inputMode="decimal"
          className={`${BOX} figure pr-14 ${bad ? "border-stop" : ""}`}
          value={text}
          aria-invalid={bad}
          aria-describedby={bad ? `${id}-bad` : undefined}
          onChange={(e) => {
            const next = e.target.value;
            setTyped(next);
            const n = Number(next.replace(",", "."));
            if (next.trim() === "") {
              if (optional) onChange(null);
            } else if (Number.isFinite(n) && n >= min && n <= max) onChange(n);
          }}
          onBlur={() => !bad && setTyped(null)}
        />
        <span className="pointer-events-none absolute inset-y-0 right-3 flex items-center text-soft">{unit}</span>
      </div>
      {bad && (
        <p id={`${id}-bad`} className="mt-1 text-[15px] text-stop">
          {empty ? "a figure is needed" : `from ${min} to ${max} ${unit}`}
        </p>
      )}
    </div>
  );
}

export interface Option {
  value: string;
  label: string;
  note?: string;
}

/** A labelled choice from a list. */
export function SelectField({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Option[];
  onChange: (v: string) => void;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className="mb-1 block text-soft">
        {label}
      </span>
      <RS.Root value={value} onValueChange={onChange}>
        <RS.Trigger aria-labelledby={id} className={`${BOX} flex items-center justify-between gap-2 text-left`}>
          <RS.Value />
          <ChevronDown size={18} aria-hidden />
        </RS.Trigger>
        <RS.Portal>
          <RS.Content position="popper" sideOffset={4} className="sheet z-50 max-h-[60vh] min-w-(--radix-select-trigger-width) overflow-hidden">
            <RS.Viewport className="p-1">
              {options.map((o) => (
                <RS.Item
                  key={o.value}
                  value={o.value}
                  className="flex min-h-12 cursor-pointer items-center gap-2 rounded-[4px] px-3 outline-none data-highlighted:bg-green-wash"
                >
                  <RS.ItemText>{o.label}</RS.ItemText>
                  {o.note && <span className="text-[15px] text-soft">{o.note}</span>}
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

/** A choice between a few, all in view. */
export function Segments({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Option[];
  onChange: (v: string) => void;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className="mb-1 block text-soft">
        {label}
      </span>
      <ToggleGroup.Root
        type="single"
        value={value}
        aria-labelledby={id}
        onValueChange={(v) => v && onChange(v)}
        className="flex flex-wrap gap-2"
      >
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
