import type { VerdictOut } from "../api/client";
import { Tag } from "../ui/Sheet";
import { BORDER, INK, shapeOf, sure, toneOf } from "./words";
import { capital } from "../lib/capital";

/** The verdict: the biggest thing on the sheet, with why and what lies inside. */
export function Banner({ v }: { v: VerdictOut }) {
  const tone = toneOf(v.verdict);
  const said = !["invalid", "unverified", "not-settled"].includes(v.verdict);
  return (
    <section className={`sheet border-[3px] p-4 md:p-5 ${BORDER[tone]}`}>
      <div className="flex items-start gap-4">
        <span
          aria-hidden
          className={`grid size-12 flex-none place-items-center rounded-full border-[3px] text-heading font-bold md:size-14 md:text-figure ${BORDER[tone]} ${INK[tone]}`}
        >
          {shapeOf(v.verdict)}
        </span>
        <div className="min-w-0" aria-live="polite">
          <p className="casual text-title leading-tight font-extrabold md:text-figure" data-testid="verdict">
            {v.headline}
          </p>
          {said && (
            <p className="mt-0.5 text-lead">
              <span className="font-bold">{capital(v.likely)}</span> <span className="figure text-soft">({sure(v.probability)})</span>
            </p>
          )}
          <ul className="mt-1.5 list-none p-0 text-lead">
            {v.reasons.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
          {v.inside && (
            <p className="mt-2">
              <Tag tone={v.clear ? "plain" : "caution"}>{v.clear ? "inside" : "inside, mind"}</Tag> {v.inside}
            </p>
          )}
        </div>
      </div>
    </section>
  );
}
