/** Time since a practice job's beginning: 0:07, 1:24:05. */
export function elapsed(seconds: number, exact = false): string {
  const s = Math.max(0, Math.floor(seconds));
  const two = (n: number) => String(n).padStart(2, "0");
  const h = Math.floor(s / 3600);
  const m = Math.floor((s % 3600) / 60);
  return `${h}:${two(m)}${exact ? `:${two(s % 60)}` : ""}`;
}

/** Minutes that something takes, short. */
export const takes = (minutes: number): string => (minutes === 0 ? "" : minutes < 1 ? `${Math.round(minutes * 60)} s` : `${Number(minutes.toFixed(1))} min`);
