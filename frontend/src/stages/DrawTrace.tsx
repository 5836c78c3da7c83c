import { ZoomIn, ZoomOut } from "lucide-react";
import { useMemo, useState } from "react";

import type { LiveOut, PlanOut, SeriesOut, SystemOut, TouchOut } from "../api/client";
import { useCloser } from "../api/queries";
import { MICRON_PA } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { useUnits } from "../lib/units";
import { Trace, type Pencil } from "../trace/Trace";
import type { Band } from "../trace/paint";
import { Button } from "../ui/Button";

const M = MICRON_PA;

/** Notes and findings are in the log, but nothing was turned. */
export const isTouch = (t: TouchOut) => t.kind !== "note" && !t.kind.startsWith("found:");

/** The trace of a draw: measured ink, the band, the levels; it follows the draw until a hand moves it. */
export function DrawTrace({
  jobKey,
  live,
  plan,
  system,
  series,
  touches,
}: {
  jobKey: string;
  live: LiveOut;
  plan: PlanOut;
  system: SystemOut;
  series: SeriesOut[];
  touches: TouchOut[];
}) {
  const narrow = useNarrow();
  const u = useUnits();
  const [view, setView] = useState<{ from: number; to: number } | null>(null);
  const closer = useCloser(jobKey, series, view);
  const ordered = useMemo(() => [...closer].sort((a, b) => Number(b.gauge === live.gauge) - Number(a.gauge === live.gauge)), [closer, live.gauge]);
  const start = live.started_at ?? live.now;
  const planEnd = start + (plan.times[plan.times.length - 1] ?? 3600);
  const lastReading = Math.max(start, ...series.map((s) => s.at[s.at.length - 1] ?? 0));
  const want = live.target_at?.high ?? planEnd;
  const to = Math.max(start + 600, Math.min(want + 300, start + Math.max(3600, 4 * (live.now - start))), lastReading + 60);
  const boils = system.water_boils_pa;
  const ice = 4588 * M;
  const bands: Band[] = [
    { from: boils, to: 1e6 * M, label: "free air", tone: "strong-rule" },
    { from: Math.min(ice, boils), to: boils, label: "water boils", tone: "ochre" },
    { from: 1000 * M, to: Math.min(ice, boils), label: "drying out", tone: "pencil" },
    { from: 10 * M, to: 1000 * M, label: "finish", tone: "green" },
  ];
  // Once readings speak, their band stands for the plan's; the plan stays as a line to compare with.
  const planned = { at: plan.times.map((t) => t + start), low: plan.gauge_low, mid: plan.gauge_mid, high: plan.gauge_high };
  const pencils: Pencil[] = live.fit && !live.fit.contradicts ? [{ at: planned.at, mid: planned.mid }, live.fit] : [planned];
  const main = ordered[0];
  // A further gauge has its own prediction: by its own readings where they speak, else the plan's for its place.
  for (const other of ordered.slice(1)) {
    const own = live.gauges.find((g) => g.part === other.part)?.fit;
    const plannedThere = plan.gauges.find((g) => g.id === other.part);
    if (own && !own.contradicts) pencils.push({ at: own.at, mid: own.mid });
    else if (plannedThere) pencils.push({ at: planned.at, mid: plannedThere.mid });
  }
  const events = touches
    .filter((t) => isTouch(t) && t.at > start + 5)
    .map((t, i) => ({ at: t.at, label: String(i + 1), pa: readingAt(main, t.at) }));
  const shown = view ?? { from: start, to };
  const zoom = (k: number) => {
    const at = (shown.from + shown.to) / 2;
    const half = (k * (shown.to - shown.from)) / 2;
    setView({ from: at - half, to: at + half });
  };
  return (
    <div className="relative">
    <Trace
      label={`Pressure against time. Last reading ${live.pa ? u.say("pressure", live.pa) : "none"}`}
      series={ordered}
      log
      height={narrow ? 300 : 404}
      from={shown.from}
      to={shown.to}
      onView={(a, b) => setView({ from: a, to: b })}
      bottom={live.target_pa / M > 110 ? 100 : 10}
      bands={narrow ? [] : bands}
      pencils={pencils}
      levels={[
        { pa: live.target_pa, label: `target ${u.say("pressure", live.target_pa)}`, tone: "green" },
        { pa: boils, label: narrow ? "water boils" : "water boils at the coldest spot", tone: "ochre", dotted: true, labelAt: "right" },
      ]}
      events={events}
    />
      <div className="absolute top-1 right-1 flex gap-1 md:right-28">
        <Button kind="quiet" className="min-w-11 bg-sheet/80 px-2" onClick={() => zoom(0.5)} aria-label="Closer in time">
          <ZoomIn size={20} aria-hidden />
        </Button>
        <Button kind="quiet" className="min-w-11 bg-sheet/80 px-2" onClick={() => zoom(2)} aria-label="Farther in time">
          <ZoomOut size={20} aria-hidden />
        </Button>
        {view && (
          <Button className="px-3" onClick={() => setView(null)}>
            Now
          </Button>
        )}
      </div>
    </div>
  );
}

function readingAt(s: SeriesOut | undefined, at: number): number | null {
  if (!s) return null;
  let lo = 0;
  let hi = s.at.length - 1;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (s.at[mid]! < at) lo = mid + 1;
    else hi = mid;
  }
  return s.pa[lo] ?? null;
}
