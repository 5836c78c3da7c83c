import type { LiveOut, SeriesOut, TouchOut } from "../api/client";
import type { Waiting } from "./outbox";

/** A run as it stands with what is on its way: the last figure typed, the touches made, though the server has not heard. */
export function withWaiting(live: LiveOut | undefined, waiting: Waiting[], offline: boolean): LiveOut | undefined {
  if (!live || (waiting.length === 0 && !offline)) return live;
  let out: LiveOut = { ...live, now: offline && !live.standin ? Math.max(live.now, Date.now() / 1000) : live.now };
  for (const w of waiting) {
    if (w.what === "reading") {
      const { pa, gauge } = w.body as { gauge: string; pa: number | null };
      out = { ...out, pa, gauge, over_range: pa === null, reading_at: w.at, rate_micron_s: null, words: "waiting to be sent", target_at: null };
    } else out = touched(out, (w.body as { kind: string }).kind, w.at);
  }
  return out;
}

/** A run with what the server has just taken of it, until it is asked for again. */
export function withSent(live: LiveOut | undefined, sent: Waiting): LiveOut | undefined {
  // A simulated gauge has a clock of its own.
  const out = withWaiting(live, [live?.standin ? { ...sent, at: live.now } : sent], false);
  return out && sent.what === "reading" ? { ...out, words: "" } : out;
}

function touched(live: LiveOut, kind: string, at: number): LiveOut {
  const next = live.next.filter((n) => n.kind !== kind);
  const [way, valve] = kind.split(":");
  if (valve && (way === "open" || way === "shut")) {
    const other = (list: string[]) => list.filter((v) => v !== valve);
    return way === "open" ? { ...live, next, opened: [...other(live.opened), valve], shut: other(live.shut) } : { ...live, next, shut: [...other(live.shut), valve], opened: other(live.opened) };
  }
  switch (kind) {
    case "pump-on":
      return { ...live, next, pump_on: true, started_at: live.started_at ?? at, phase: live.phase === "before" ? "draw" : live.phase };
    case "pump-off":
      return { ...live, next, pump_on: false };
    case "ballast-open":
    case "ballast-shut":
      return { ...live, next, ballast_open: kind === "ballast-open" };
    case "isolate":
      return { ...live, next, isolated_at: at, phase: "hold" };
    case "reopen":
      return { ...live, next, isolated_at: null, phase: "draw" };
    default:
      return { ...live, next };
  }
}

/** Touches with those on their way. */
export function touchesWith(touches: TouchOut[], waiting: Waiting[], said = "(waiting to be sent)"): TouchOut[] {
  const mine = waiting.filter((w) => w.what === "touch");
  if (mine.length === 0) return touches;
  const late = mine.map((w) => {
    const { kind, note = "" } = w.body as { kind: string; note?: string };
    return { kind, words: kind.replace(/[-:]/g, " ").replace(/^./, (c) => c.toUpperCase()), at: w.at, note: `${note} ${said}`.trim(), hand: "" };
  });
  return [...touches, ...late];
}

/** Readings with those typed and not sent yet. */
export function readingsWith(series: SeriesOut[], waiting: Waiting[]): SeriesOut[] {
  let out = series;
  for (const w of waiting) {
    if (w.what !== "reading") continue;
    const { gauge, part = null, pa } = w.body as { gauge: string; part?: string | null; pa: number | null };
    const found = out.find((s) => (part ? s.part === part : s.gauge === gauge));
    const base = found ?? { gauge, part, at: [], pa: [], total: 0, thinned: false, simulated: [] };
    const grown = { ...base, at: [...base.at, w.at], pa: [...base.pa, pa], total: base.total + 1 };
    out = found ? out.map((s) => (s === found ? grown : s)) : [...out, grown];
  }
  return out;
}
