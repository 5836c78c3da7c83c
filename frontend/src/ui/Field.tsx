import { useId, useState } from "react";

import { inField, plain, typed, type Typed } from "../lib/numbers";
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

/** A day, or a moment to the minute, as the device has people choose it: "2026-07-11", "2026-07-11T13:34". */
export function WhenField({ label, kind, value, onChange }: { label: string; kind: "day" | "moment"; value: string; onChange: (v: string) => void }) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-soft">
        {label}
      </label>
      <input id={id} type={kind === "day" ? "date" : "datetime-local"} className={BOX} value={value} onChange={(e) => onChange(e.target.value)} />
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
  const written = (v: number) => inField(show(v), u.numbers);
  const shownUnit = dim ? (dim === "mass" && u.of(dim).key === "lb-oz" ? "lb" : u.label(dim)) : unit;
  const [own, setOwn] = useState<{ text: string; unit: string | undefined } | null>(null);
  // What was typed in another unit is not shown as if it were in this one.
  const live = own && own.unit === shownUnit ? own.text : null;
  const text = live ?? (value === null || value === undefined ? "" : written(value));
  const read = typed(text, u.numbers);
  const parsed = read ? keep(read.value) : Number.NaN;
  const empty = text.trim() === "";
  // Bounds are kept in the document's unit; a figure on the bound must not fail for its last digit.
  const within = (v: number) => Number.isFinite(v) && v >= min - Math.abs(min) * 1e-4 && v <= max * 1.0001;
  const bounded = (v: number) => Math.min(max, Math.max(min, v));
  const bad = empty ? !optional : !within(parsed);
  const saying = (v: number) => `${plain(v, 6, u.numbers)} ${shownUnit ?? ""}`.trim();
  // Two numbers, and both could stand here: it is asked which, before either is taken.
  const twoWays = (t: Typed | null) => t?.other !== undefined && within(keep(t.value)) && within(keep(t.other));
  const asked = live !== null && twoWays(read);
  const said = read && live !== null && !bad && read.how === "shown";
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={quiet ? "sr-only" : "mb-1 block text-soft"}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          inputMode="decimal"
          className={`${BOX} figure pr-14 ${bad ? "border-stop" : asked ? "border-ochre" : ""}`}
          value={text}
          aria-invalid={bad || asked}
          aria-describedby={bad ? `${id}-bad` : said ? `${id}-read` : undefined}
          onChange={(e) => {
            const next = e.target.value;
            setOwn({ text: next, unit: shownUnit });
            const found = typed(next, u.numbers);
            if (next.trim() === "") {
              if (optional) onChange(null);
              // What can be two numbers is asked about first.
            } else if (found && !twoWays(found) && within(keep(found.value))) onChange(bounded(keep(found.value)));
          }}
          onBlur={() => !bad && !asked && setOwn(null)}
        />
        <span className="pointer-events-none absolute inset-y-0 right-3 flex items-center text-soft">{shownUnit}</span>
      </div>
      {bad && (
        <p id={`${id}-bad`} className="mt-1 text-note text-stop">
          {empty ? "a figure is needed" : read ? `from ${written(min)} to ${written(max)} ${shownUnit ?? ""}` : "not a number"}
        </p>
      )}
      {said && (
        <p id={`${id}-read`} className="mt-1 flex flex-wrap items-center gap-2 text-note text-soft" aria-live="polite">
          {asked ? "Which one?" : `Read as ${saying(read.value)}`}
          {asked &&
            [read.value, read.other!].map((v) => (
              <button
                key={v}
                type="button"
                className="min-h-11 rounded-[5px] border-2 border-ink px-3 font-bold text-ink hover:bg-green-wash"
                onClick={() => {
                  onChange(bounded(keep(v)));
                  setOwn(null);
                }}
              >
                {saying(v)}
              </button>
            ))}
        </p>
      )}
    </div>
  );
}
