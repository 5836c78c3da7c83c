import { ChevronDown, Check } from "lucide-react";
import { Select as RS, ToggleGroup } from "radix-ui";
import { useId, useState } from "react";

import { useUnits, type Dim } from "../lib/units";

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
  dim,
  per = 1,
  value,
  onChange,
  min,
  max,
  optional = false,
  quiet = false,
}: {
  label: string;
  unit?: string;
  /** A kind of figure that is shown in the person's own unit; `per` is one of the field's units in the dimension's. */
  dim?: Dim;
  per?: number;
  value: number | null | undefined;
  onChange: (v: number | null) => void;
  min: number;
  max: number;
  optional?: boolean;
  /** The label is for readers of the screen only: what the field is shows from its place. */
  quiet?: boolean;
}) {
  const id = useId();
  const u = useUnits();
  const native = !dim || (per === 1 && u.of(dim).factor === 1 && !u.of(dim).offset);
  const show = (v: number) => (native || !dim ? v : Number(u.shown(dim, v * per).toPrecision(5)));
  const keep = (v: number) => (native || !dim ? v : Number((u.stored(dim, v) / per).toPrecision(7)));
  const shownUnit = dim ? (u.of(dim).key === "lb-oz" ? "lb" : u.label(dim)) : unit;
  const [typed, setTyped] = useState<{ text: string; unit: string | undefined } | null>(null);
  // What was typed in another unit is not shown as if it were in this one.
  const live = typed && typed.unit === shownUnit ? typed.text : null;
  const text = live ?? (value === null || value === undefined ? "" : String(show(value)));
  const parsed = keep(Number(text.replace(",", ".")));
  const empty = text.trim() === "";
  // Bounds are kept in the document's unit; a figure on the bound must not fail for its last digit.
  const within = (v: number) => Number.isFinite(v) && v >= min - Math.abs(min) * 1e-4 && v <= max * 1.0001;
  const bad = empty ? !optional : !within(parsed);
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={quiet ? "sr-only" : "mb-1 block text-soft"}>
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
            setTyped({ text: next, unit: shownUnit });
            const n = keep(Number(next.replace(",", ".")));
            if (next.trim() === "") {
              if (optional) onChange(null);
            } else if (within(n)) onChange(Math.min(max, Math.max(min, n)));
          }}
          onBlur={() => !bad && setTyped(null)}
        />
        <span className="pointer-events-none absolute inset-y-0 right-3 flex items-center text-soft">{shownUnit}</span>
      </div>
      {bad && (
        <p id={`${id}-bad`} className="mt-1 text-[15px] text-stop">
          {empty ? "a figure is needed" : `from ${show(min)} to ${show(max)} ${shownUnit}`}
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
  placeholder = "choose",
  quiet = false,
}: {
  label: string;
  value: string;
  options: Option[];
  onChange: (v: string) => void;
  placeholder?: string;
  quiet?: boolean;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className={quiet ? "sr-only" : "mb-1 block text-soft"}>
        {label}
      </span>
      <RS.Root value={value} onValueChange={onChange}>
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
