import type { WaterCurve } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { useUnits } from "../lib/units";
import { useNotePage } from "./ask";
import { Waits } from "../ui/Waits";

const W = 640;
const H = 420;
const LEFT = 96;
const FOOT = 36;
const C0 = -60;
const C1 = 100;
const LOG0 = 0;
const LOG1 = 6;

const x = (c: number) => LEFT + ((c - C0) / (C1 - C0)) * (W - LEFT - 12);
const y = (pa: number) => 8 + (1 - (Math.log10(pa / MICRON_PA) - LOG0) / (LOG1 - LOG0)) * (H - FOOT - 8);

/** Water's curve on decades of pressure: ice in dashes, liquid in ink, what was asked as a ring on it. */
export function WaterChart({ at }: { at: { pa: number; c: number | null } | null }) {
  const curve = useNotePage<WaterCurve>("water");
  const u = useUnits();
  if (!curve.data) return <Waits>Drawing…</Waits>;
  const { c, pa, ice, triple_pa } = curve.data;
  const path = (from: number, to: number) =>
    c
      .slice(from, to)
      .map((t, i) => `${i === 0 ? "M" : "L"}${x(t).toFixed(1)} ${y(pa[from + i]!).toFixed(1)}`)
      .join(" ");
  const step = u.of("temperature").key === "f" ? 40 : 20;
  const first = Math.ceil(u.shown("temperature", C0) / step);
  const warmth = Array.from({ length: Math.floor(u.shown("temperature", C1) / step) - first + 1 }, (_, i) => (first + i) * step);
  const micron = u.of("pressure").key === "micron";
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full" role="img" aria-label="Saturation of water and ice, pressure against temperature">
      {[0, 1, 2, 3, 4, 5, 6].map((d) => (
        <g key={d}>
          <line x1={LEFT} x2={W - 12} y1={y(10 ** d * MICRON_PA)} y2={y(10 ** d * MICRON_PA)} stroke="var(--strong-rule)" />
          <text x={LEFT - 8} y={y(10 ** d * MICRON_PA) + 5} textAnchor="end" fontSize="15" className="figure" fill="var(--ink)">
            {micron ? u.whole(10 ** d) : u.figure("pressure", 10 ** d * MICRON_PA)}
          </text>
        </g>
      ))}
      {warmth.map((t) => (
        <g key={t}>
          <line x1={x(u.stored("temperature", t))} x2={x(u.stored("temperature", t))} y1={8} y2={H - FOOT} stroke="var(--rule)" />
          <text x={x(u.stored("temperature", t))} y={H - 12} textAnchor="middle" fontSize="15" className="figure" fill="var(--ink)">
            {u.whole(t)}
          </text>
        </g>
      ))}
      <text x={W - 14} y={H - FOOT - 10} textAnchor="end" fontSize="15" fill="var(--soft)">
        {u.label("temperature")}
      </text>
      <text x={LEFT + 8} y={24} fontSize="15" fill="var(--soft)">
        {u.label("pressure")}
      </text>
      <path d={path(0, ice + 1)} fill="none" stroke="var(--ochre)" strokeWidth="3" strokeDasharray="8 5" />
      <path d={path(ice, c.length)} fill="none" stroke="var(--ochre)" strokeWidth="3" />
      <circle cx={x(0.01)} cy={y(triple_pa)} r="4" fill="var(--ink)" />
      <text x={x(0.01) + 10} y={y(triple_pa) + 16} fontSize="15" fill="var(--ink)">
        triple point, {u.say("pressure", triple_pa)}
      </text>
      <text x={x(-42)} y={y(1.4)} fontSize="15" fill="var(--soft)">
        ice
      </text>
      <text x={x(46)} y={y(6200)} fontSize="15" fill="var(--soft)">
        water
      </text>
      <text x={x(58)} y={y(120)} fontSize="15" fill="var(--soft)">
        vapour
      </text>
      {at && at.c !== null && (
        <g>
          <line x1={LEFT} x2={x(at.c)} y1={y(at.pa)} y2={y(at.pa)} stroke="var(--measure)" strokeWidth="2" />
          <line x1={x(at.c)} x2={x(at.c)} y1={y(at.pa)} y2={H - FOOT} stroke="var(--measure)" strokeWidth="2" />
          <circle cx={x(at.c)} cy={y(at.pa)} r="8" fill="var(--sheet)" stroke="var(--measure)" strokeWidth="3.5" />
        </g>
      )}
    </svg>
  );
}
