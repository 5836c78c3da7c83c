import type { VerdictOut } from "../api/client";
import { useUnits } from "../lib/units";
import { Tag } from "../ui/Sheet";
import { BORDER, INK, sentenceCase, shapeOf, sure, toneOf } from "./words";

/** The verdict: the biggest thing on the sheet, with why and what lies inside. */
export function Banner({ v }: { v: VerdictOut }) {
  const u = useUnits();
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
            {v.sentence}
          </p>
          {said && (
            <p className="mt-0.5 text-lead">
              <span className="font-bold">{sentenceCase(v.likely)}</span> <span className="figure text-soft">({sure(v.probability)})</span>
            </p>
          )}
          <ul className="mt-1.5 list-none p-0 text-lead">
            {v.reasons.map((r) => (
              <li key={r}>{u.words(sentenceCase(r))}.</li>
            ))}
          </ul>
          {v.inside && (
            <p className="mt-2">
              <Tag tone={v.clear ? "plain" : "caution"}>{v.clear ? "inside" : "inside, mind"}</Tag> {u.words(v.inside)}
            </p>
          )}
        </div>
      </div>
    </section>
  );
}
