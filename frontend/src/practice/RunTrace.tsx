import { useMemo } from "react";

import type { RunOut, SeriesOut, TrackOut } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { useUnits } from "../lib/units";
import { Trace } from "../trace/Trace";
import { ink, pencil } from "./curves";
import { elapsed } from "./elapsed";

const M = MICRON_PA;

/** The strip chart of a practice job: what the gauge says, and a second one where it was screwed on. */
export function RunTrace({ run, track }: { run: RunOut; track: TrackOut }) {
  const u = useUnits();
  const narrow = useNarrow();
  const series = useMemo<SeriesOut[]>(() => {
    const main = ink("gauge", track.at, track.pa);
    return track.second_at.length > 0 ? [main, ink("second", track.second_at, track.second_pa)] : [main];
  }, [track]);
  // In a sandbox what is so is drawn beside what is read.
  const so = useMemo(() => (track.worst_pa.length > 0 ? [pencil(track.at, track.worst_pa, 0)] : []), [track]);
  const events = run.done
    .filter((d) => !/^(look|test|cause|hint|safe)/.test(d.kind))
    .map((d, i) => ({ at: d.at, label: String(i + 1), pa: null }));
  return (
    <Trace
      label={`Pressure against time. Last reading ${run.pa ? u.say("pressure", run.pa) : "none"}`}
      series={series}
      pencils={so}
      log
      height={narrow ? 260 : 330}
      from={0}
      to={Math.max(900, run.time * 1.08)}
      bottom={run.target_pa / M > 110 ? 100 * 0.5 : 10}
      levels={[{ pa: run.target_pa, label: `target ${u.say("pressure", run.target_pa)}`, tone: "green" }]}
      events={events}
      time={(t) => elapsed(t)}
    />
  );
}
