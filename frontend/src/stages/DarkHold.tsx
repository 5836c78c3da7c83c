import type { LiveOut, SeriesOut } from "../api/client";
import { clock, span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Sheet } from "../ui/Sheet";
import { NextCard } from "./Draw";
import { Source } from "./Source";

/** A hold that began without signal: what was read, since when; the verdict comes with the signal. */
export function DarkHold({ jobKey, live, series }: { jobKey: string; live: LiveOut; series: SeriesOut[] }) {
  const u = useUnits();
  const since = live.isolated_at ?? live.now;
  const read = series
    .flatMap((s) => s.at.map((at, i) => ({ at, pa: s.pa[i] ?? null, gauge: s.gauge })))
    .filter((r) => r.at >= since)
    .sort((a, b) => b.at - a.at);
  return (
    <div className="mx-auto grid max-w-xl gap-3">
      <Sheet strong title="Held, without signal">
        <p className="figure text-reading leading-[1.16] font-bold text-measure" data-testid="figure">
          {live.pa !== null && live.pa !== undefined ? u.say("pressure", live.pa) : live.over_range ? "over" : "—"}
        </p>
        <p>
          Isolated <span className="figure font-bold">{clock(since)}</span>, {span(Math.max(0, live.now - since))} ago. Type a reading each minute: the verdict is worked out from them when the signal is back.
        </p>
        <Source jobKey={jobKey} live={live} hasReadings />
      </Sheet>
      {live.pump_on && <NextCard live={live} jobKey={jobKey} />}
      {read.length > 0 && (
        <Sheet title="Read in this hold test">
          <ol className="max-h-72 list-none overflow-auto p-0">
            {read.map((r) => (
              <li key={r.at} className="flex justify-between border-b border-rule py-1 last:border-b-0">
                <span className="figure">{clock(r.at, true)}</span>
                <span className="figure font-bold">{r.pa === null ? "over" : u.say("pressure", r.pa)}</span>
              </li>
            ))}
          </ol>
        </Sheet>
      )}
    </div>
  );
}
