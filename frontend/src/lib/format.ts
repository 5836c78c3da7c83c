/** Words and figures: how numbers are written. Conversions of unit only; nothing is computed here. */

export const ATMOSPHERE_PA = 101_325;
export const MICRON_PA = ATMOSPHERE_PA / 760_000;

export const micron = (pa: number): number => pa / MICRON_PA;

/** Clock time of epoch seconds, 14:05 or 14:05:09. */
export function clock(at: number, seconds = false): string {
  const d = new Date(at * 1000);
  const two = (n: number) => String(n).padStart(2, "0");
  const base = `${two(d.getHours())}:${two(d.getMinutes())}`;
  return seconds ? `${base}:${two(d.getSeconds())}` : base;
}

/** Day and clock time, 2026-05-04 14:05. */
export const stamp = (at: number): string => new Date(at * 1000).toLocaleString("sv-SE").slice(0, 16);

/** Day and clock time for a field that takes one: 2026-05-04T14:05, from epoch ms. */
export const localStamp = (ms: number): string => stamp(ms / 1000).replace(" ", "T");

/** Day and clock time as people here write it, with the zone. */
export const moment = (at: number): string =>
  new Date(at * 1000).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

/** A span of time in words: 40 s, 12 min, 2 h 05. */
export function span(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 120) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
}

export const percent = (share: number): string =>
  share > 0 && share < 0.01 ? "under 1 %" : share > 0.99 && share < 1 ? "over 99 %" : `${Math.round(share * 100)} %`;

/** An interval, each end written by `say`. */
export const range = (r: { low: number; high: number }, say: (v: number) => string): string =>
  say(r.low) === say(r.high) ? say(r.low) : `${say(r.low)} to ${say(r.high)}`;
