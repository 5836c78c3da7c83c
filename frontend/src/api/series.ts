import type { SeriesOut } from "./client";

/** Spans with one more, which goes on from the last where nothing else was read between. */
function spanned(spans: [number, number][], from: number, to: number, last: number): [number, number][] {
  const end = spans[spans.length - 1];
  return end && end[1] >= last ? [...spans.slice(0, -1), [end[0], to]] : [...spans, [from, to]];
}

/** Series with readings that have come since, by gauge or by its part on the sheet; what is older than the last is known. */
export function append(old: SeriesOut[] | undefined, whose: { gauge: string; part: string | null }, at: number[], pa: (number | null)[], simulated = false): SeriesOut[] | undefined {
  if (!old) return old;
  const found = old.find((s) => (whose.part ? s.part === whose.part : s.gauge === whose.gauge));
  const base = found ?? { ...whose, at: [], pa: [], total: 0, thinned: false, simulated: [] };
  const last = base.at[base.at.length - 1] ?? -Infinity;
  const fresh = at.map((t, i) => [t, pa[i] ?? null] as const).filter(([t]) => t > last);
  if (fresh.length === 0) return old;
  const next: SeriesOut = {
    ...base,
    at: [...base.at, ...fresh.map(([t]) => t)],
    pa: [...base.pa, ...fresh.map(([, p]) => p)],
    total: base.total + fresh.length,
    simulated: simulated ? spanned(base.simulated, fresh[0]![0], fresh[fresh.length - 1]![0], last) : base.simulated,
  };
  return found ? old.map((s) => (s === found ? next : s)) : [...old, next];
}
