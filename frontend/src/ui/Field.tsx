import { useId, useState } from "react";

import { useUnits, type Dim } from "../lib/units";

/** The box of anything that is typed or chosen. */
export const BOX = "min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet px-3 hover:border-ink";

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
        <p id={`${id}-bad`} className="mt-1 text-note text-stop">
          {empty ? "a figure is needed" : `from ${show(min)} to ${show(max)} ${shownUnit}`}
        </p>
      )}
    </div>
  );
}
