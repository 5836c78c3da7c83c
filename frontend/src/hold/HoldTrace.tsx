import { useMemo } from "react";

import type { SeriesOut, VerdictOut } from "../api/client";
import { micron, percent, span } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { useUnits } from "../lib/units";
import { Trace } from "../trace/Trace";
import { DASHES, type Level } from "../trace/paint";

/** The hold on a linear scale: readings in ink, the accounts in pencil with their names, the limit of each school. */
export function HoldTrace({ v, series, now }: { v: VerdictOut; series: SeriesOut[]; now: number | null }) {
  const narrow = useNarrow();
  const u = useUnits();
  const start = v.started_at;
  const end = start + Math.max(v.span_s * 1.2, now === null ? 0 : now - start, 300);
  const held = useMemo(() => series.map((s) => within(s, start - 20)), [series, start]);
  const peak = Math.max(v.limit_pa, ...held.flatMap((s) => s.pa.filter((p): p is number => p !== null)));
  const top = micron(peak) * 1.12;
  const levels: Level[] = [{ pa: v.limit_pa, label: `limit ${u.say("pressure", v.limit_pa)}`, tone: "green", labelAt: v.limit_pa / peak < 0.4 ? "right" : "left" }];
  if (micron(v.saturation_pa) < top) levels.push({ pa: v.saturation_pa, label: "water at the coldest spot", tone: "ochre", dotted: true, labelAt: "left" });
  // Beside the last reading the mark would lie on it.
  const sound = v.sound_at_s !== null && v.sound_at_s < 0.9 * v.span_s ? v.sound_at_s : null;
  const named = v.curves.slice(0, narrow ? 2 : 4);
  return (
    <>
    <Trace
      label={`Hold test: ${v.headline}: ${named.map((c) => c.words).join("; ")}`}
      series={held}
      log={false}
      height={narrow ? 300 : 380}
      from={start - 20}
      to={end}
      top={top}
      bottom={0}
      levels={levels}
      events={sound !== null ? [{ at: start + sound, label: "✓", pa: readingAt(held, start + sound) }] : []}
      pencils={named.map((c, i) => ({ at: c.at, mid: c.pa, dash: i, strong: c.best }))}
      time={start > 0 ? undefined : (at) => span(Math.max(0, at))}
    />
    <Accounts curves={named} />
    </>
  );
}

/** The accounts that are drawn, each with its dash, its figures and its odds. */
function Accounts({ curves }: { curves: VerdictOut["curves"] }) {
  if (curves.length === 0) return null;
  return (
    <ul aria-label="Causes drawn" className="grid list-none gap-x-5 gap-y-1 p-0 pl-2 sm:grid-cols-2">
      {curves.map((c, i) => (
        <li key={c.name} className={`flex items-center gap-2.5 ${c.best ? "font-bold" : ""}`}>
          <svg width="44" height="10" aria-hidden className="flex-none">
            <line x1="0" y1="5" x2="44" y2="5" stroke={c.best ? "var(--soft)" : "var(--pencil)"} strokeWidth={c.best ? 2.6 : 2} strokeDasharray={(DASHES[i % DASHES.length] ?? []).join(" ")} />
          </svg>
          <span>
            {c.words} <span className="figure font-normal text-soft">{percent(c.odds)}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

function readingAt(series: SeriesOut[], at: number): number | null {
  for (const s of series) {
    const k = s.at.findIndex((t) => t >= at);
    if (k >= 0) return s.pa[k] ?? null;
  }
  return null;
}

function within(s: SeriesOut, from: number): SeriesOut {
  const first = s.at.findIndex((t) => t >= from);
  return first <= 0 ? s : { ...s, at: s.at.slice(first), pa: s.pa.slice(first) };
}
