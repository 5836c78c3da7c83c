import type { BenchOut } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { useUnits } from "../lib/units";

const W = 660;
const H = 210;
const LEFT = 78;
const FOOT = 26;

/** The stage's reading against what a good one does: decades down, seconds along. */
export function BenchChart({ bench }: { bench: BenchOut }) {
  const u = useUnits();
  const end = Math.max(180, (bench.at[bench.at.length - 1] ?? 0) + 10);
  const top = 1e6 * MICRON_PA;
  const foot = 5 * MICRON_PA;
  const x = (t: number) => LEFT + ((W - LEFT - 8) * Math.max(0, t)) / end;
  const y = (pa: number) => 8 + ((H - FOOT - 8) * Math.log(top / Math.min(top, Math.max(foot, pa)))) / Math.log(top / foot);
  const points = (ps: number[]) => bench.times.map((t, i) => `${x(t).toFixed(1)} ${y(ps[i] ?? foot).toFixed(1)}`);
  const band = bench.times.length > 0 ? `M${points(bench.high).join("L")}L${points(bench.low).reverse().join("L")}Z` : "";
  const seen = (i: number) => i >= 0 && bench.shown[i] !== null && bench.shown[i] !== undefined && (bench.at[i] ?? -1) >= 0;
  // Over range is a gap in the ink, not a line across it.
  const ink = bench.at.map((t, i) => (seen(i) ? `${seen(i - 1) ? "L" : "M"}${x(t).toFixed(1)} ${y(bench.shown[i]!).toFixed(1)}` : "")).join("");
  const steps = [10, 100, 1000, 10000, 100000].map((m) => m * MICRON_PA);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full" role="img" aria-label="Reading of this stage against what a good one does">
      <defs>
        <pattern id="bench-band" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" stroke="var(--strong-rule)" strokeWidth="3" />
        </pattern>
      </defs>
      {steps.map((p) => (
        <g key={p}>
          <path d={`M${LEFT} ${y(p)}H${W - 8}`} stroke="var(--rule)" strokeWidth="1.5" />
          <text x={LEFT - 6} y={y(p) + 5} textAnchor="end" fontSize="14" fill="var(--soft)" className="figure">
            {u.figure("pressure", p)}
          </text>
        </g>
      ))}
      {[0, 60, 120, 180, 240, 300].filter((t) => t <= end).map((t) => (
        <text key={t} x={x(t)} y={H - 6} textAnchor="middle" fontSize="14" fill="var(--soft)" className="figure">
          {t} s
        </text>
      ))}
      <path d={band} fill="url(#bench-band)" stroke="var(--pencil)" strokeWidth="1" />
      {bench.shut_s !== null && bench.shut_s !== undefined && (
        <g>
          <path d={`M${x(bench.shut_s)} 8V${H - FOOT}`} stroke="var(--ink)" strokeDasharray="4 4" />
          <text x={x(bench.shut_s) + 5} y={20} fontSize="14" fill="var(--ink)">
            valve closed
          </text>
        </g>
      )}
      <path d={ink} fill="none" stroke="var(--measure)" strokeWidth="3" />
    </svg>
  );
}
