import type { DayJob } from "../api/client";
import { clock } from "../lib/format";

const STEPS = [300, 600, 900, 1800, 3600, 2 * 3600, 4 * 3600, 12 * 3600];

/** The touches of a job along the day: a tick at the expected time, hatching from early to late. */
export function Strip({ job, from, to, now }: { job: DayJob; from: number; to: number; now?: number }) {
  const W = 1000;
  const x = (t: number) => Math.min(W, Math.max(0, ((t - from) / (to - from)) * W));
  const touches = job.touches;
  const first = touches[0];
  const last = touches[touches.length - 1];
  if (!first || !last) return null;
  const off = touches.find((t) => t.kind === "isolate");
  const step = STEPS.find((s) => (to - from) / s <= 14) ?? 86_400;
  const hours = [];
  for (let t = Math.ceil(from / step) * step; t <= to && hours.length < 20; t += step) hours.push(t);
  return (
    <svg viewBox={`0 0 ${W} 74`} className="w-full" role="img" aria-label={touches.map((t) => `${clock(t.at.value)} ${t.title}`).join(", ")}>
      {hours.map((t) => (
        <g key={t}>
          <path d={`M${x(t)} 0V52`} stroke="var(--rule)" />
          <text x={Math.min(W - 24, Math.max(24, x(t)))} y={70} textAnchor="middle" fontSize="14" fill="var(--soft)" className="figure">
            {clock(t)}
          </text>
        </g>
      ))}
      <path d={`M${x(first.at.value)} 28H${x(last.at.value)}`} stroke="var(--strong-rule)" strokeWidth="6" />
      {off && <path d={`M${x(job.start_at ?? first.at.value)} 28H${x(off.at.value)}`} stroke="var(--ink)" strokeWidth="6" />}
      {touches.map((t) => (
        <g key={t.kind}>
          {t.at.high - t.at.low > 30 && (
            <rect x={x(t.at.low)} y={18} width={Math.max(2, x(t.at.high) - x(t.at.low))} height={20} fill="none" stroke="var(--pencil)" strokeDasharray="3 3" />
          )}
          <circle cx={x(t.at.value)} cy={28} r={9} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="3" />
        </g>
      ))}
      {now !== undefined && now > from && now < to && <path d={`M${x(now)} 2V52`} stroke="var(--measure)" strokeWidth="3" />}
    </svg>
  );
}

/** The same in words, in order. */
export function TouchTable({ job }: { job: DayJob }) {
  return (
    <ol className="grid list-none gap-x-8 p-0 sm:grid-cols-2">
      {job.touches.map((t) => (
        <li key={t.kind} className="flex min-h-10 items-baseline gap-3 border-t border-rule py-1">
          <span className="figure font-bold">{clock(t.at.value)}</span>
          <span className="flex-1">{t.title}</span>
          {t.at.high - t.at.low > 60 && (
            <span className="figure text-soft">
              {clock(t.at.low)}–{clock(t.at.high)}
            </span>
          )}
        </li>
      ))}
    </ol>
  );
}
