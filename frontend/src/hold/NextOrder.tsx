import { Link } from "react-router";

import type { VerdictOut } from "../api/client";
import { useNarrow } from "../lib/narrow";
import { Sheet } from "../ui/Sheet";

const STAGES: Record<string, string> = { draw: "To the draw", release: "To release", prove: "To the pressure test", rig: "To the rig" };

/** What to do next: one order, its reason, what goes with it; for a leak, where to look in this rig and system. */
export function NextOrder({ v, jobKey }: { v: VerdictOut; jobKey?: string }) {
  const a = v.advice;
  const narrow = useNarrow();
  return (
    <Sheet strong>
      <h2 className="text-base font-bold text-soft">What next</h2>
      <p className="casual mt-1 text-order leading-[1.2] font-extrabold">{a.order}</p>
      <p className="mt-1">{a.why}</p>
      {a.also.length > 0 && (
        <ul className="mt-2 list-none p-0">
          {a.also.map((x) => (
            <li key={x} className="mb-1 border-l-4 border-strong pl-3">
              {x}
            </li>
          ))}
        </ul>
      )}
      {jobKey && a.stage && (
        <Link to={`/jobs/${jobKey}/${a.stage}`} className="casual mt-3 inline-grid min-h-12 place-items-center rounded-[5px] border-2 border-ink bg-ink px-4 font-bold text-on-ink">
          {STAGES[a.stage] ?? a.stage}
        </Link>
      )}
      {a.places.length > 0 && (
        <details className="mt-3" open={!narrow}>
          <summary className="min-h-8 cursor-pointer font-bold">Where to look, the cheapest first</summary>
          <ol className="mt-1 list-none p-0">
            {a.places.map((p, i) => (
              <li key={p.where} className="grid grid-cols-[30px_1fr] border-t-2 border-rule py-1.5">
                <span className="figure font-bold">{i + 1}</span>
                <span>
                  <b>{p.where}</b> <span className="text-soft">{p.how}.</span>
                </span>
              </li>
            ))}
          </ol>
        </details>
      )}
    </Sheet>
  );
}
