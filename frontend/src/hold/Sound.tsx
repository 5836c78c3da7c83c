import type { VerdictOut } from "../api/client";
import { clock, span } from "../lib/format";
import { Sheet } from "../ui/Sheet";

/** Since when the hold was sound, or how long until it will be: the bar runs from the isolation to that moment. */
export function Sound({ v, now, running }: { v: VerdictOut; now: number; running: boolean }) {
  const at = (s: number) => (v.started_at > 0 ? clock(v.started_at + s) : "");
  const since = v.sound_at_s;
  const wait = v.wait_s;
  if (v.verdict === "invalid" || v.verdict === "unverified") return null;
  const done = since !== null && since !== undefined;
  const gone = running ? Math.max(v.span_s, now - v.started_at) : v.span_s;
  const end = v.span_s + (wait ?? 0);
  const left = Math.max(0, end - gone);
  return (
    <Sheet strong={!done} title={done ? "Verdict is firm" : "Too early to call"} aside={`${span(v.span_s)} read`}>
      {done ? (
        <p>
          <span className="figure text-title font-bold text-green">{at(since) || span(since)}</span>{" "}
          {v.started_at > 0 && <>after {span(since)}. </>}
          More time did not change it.
        </p>
      ) : wait === null || wait === undefined ? (
        <p>{running ? "Longer than makes sense to wait: this hold test may never tell." : "It was opened before the verdict was firm."}</p>
      ) : (
        <>
          <p aria-live="off">
            <span className="figure text-title font-bold">{running ? `${span(left)}` : `${span(wait)} more`}</span>{" "}
            {running ? `to go, at about ${at(end)}` : "would have made it firm"}, if it goes on as now.
          </p>
          <div className="mt-2 h-4 border-2 border-ink" role="progressbar" aria-label="of the time to a firm verdict" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round((100 * gone) / end)}>
            <div className="h-full bg-measure" style={{ width: `${Math.min(100, (100 * gone) / end)}%` }} />
          </div>
        </>
      )}
    </Sheet>
  );
}
