import type { VerdictOut } from "../api/client";
import { percent } from "../lib/format";
import { Sheet } from "../ui/Sheet";

/** The odds of every cause as bars, with words: a bar of no length still has its word. */
export function Odds({ v }: { v: VerdictOut }) {
  if (v.odds.length === 0) return null;
  return (
    <Sheet title="Most likely causes" fold="hold-odds">
      <ul className="list-none p-0">
        {v.odds.map((o) => (
          <li key={o.key} className="mb-2.5 last:mb-0">
            <div className="flex items-baseline justify-between gap-2">
              <span className={o.odds >= 0.5 ? "font-bold" : ""}>{o.name}</span>
              <span className="whitespace-nowrap">
                <span className="text-soft">{o.words}</span> <span className="figure inline-block min-w-[86px] text-right">{percent(o.odds)}</span>
              </span>
            </div>
            <div className="h-3 bg-rule" aria-hidden>
              <div className="h-3 bg-ink" style={{ width: `${100 * o.odds}%` }} />
            </div>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
