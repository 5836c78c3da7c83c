import type { VerdictOut } from "../api/client";
import { clock } from "../lib/format";
import { Sheet } from "../ui/Sheet";

/** Earlier holds of the same job: a leak keeps its rate, vapour does not. */
export function Earlier({ v }: { v: VerdictOut }) {
  if (v.earlier.length === 0) return null;
  return (
    <Sheet title="Beside earlier hold tests of this job" fold="hold-earlier">
      <ul className="list-none p-0">
        {v.earlier.map((e) => (
          <li key={e.started_at} className="border-t-2 border-rule py-2 first:border-0 first:pt-0">
            <span className="figure font-bold">{clock(e.started_at)}</span> {e.check ? "check-hold" : "hold"}, {Math.round(e.minutes)} min: <b>{e.sentence}.</b>
            <span className="block">{e.words}</span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
