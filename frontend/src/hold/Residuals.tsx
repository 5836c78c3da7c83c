import { useState } from "react";

import type { VerdictOut } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";

/** What the best cause leaves over, on demand: it should scatter about nought, within the hatch. */
export function Residuals({ v }: { v: VerdictOut }) {
  const [open, setOpen] = useState(false);
  const u = useUnits();
  const r = v.residuals;
  if (r.at.length < 2) return null;
  const [W, H, L] = [760, 150, 62];
  const first = r.at[0]!;
  const span = r.at[r.at.length - 1]! - first;
  const most = Math.max(MICRON_PA, ...r.pa.map(Math.abs), ...r.sigma.map((s) => 2 * s));
  const x = (at: number) => L + ((W - L - 8) * (at - first)) / span;
  const y = (pa: number) => H / 2 - ((H / 2 - 12) * pa) / most;
  const band = [...r.at.map((t, i) => `${x(t)},${y(2 * r.sigma[i]!)}`), ...r.at.map((t, i) => `${x(t)},${y(-2 * r.sigma[i]!)}`).reverse()].join(" ");
  const outside = r.pa.filter((p, i) => Math.abs(p) > 2 * r.sigma[i]!).length;
  return (
    <div>
      <Button kind="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Hide what is left over" : "Show what is left over"}
      </Button>
      {open && (
        <figure className="mt-1">
          <svg viewBox={`0 0 ${W} ${H}`} className="w-full" role="img" aria-label={`What the best cause leaves over: ${outside} of ${r.at.length} points outside of two standard errors`}>
            <defs>
              <pattern id="left-over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <line x1="0" y1="0" x2="0" y2="6" stroke="var(--strong-rule)" strokeWidth="1.6" />
              </pattern>
            </defs>
            <polygon points={band} fill="url(#left-over)" />
            <line x1={L} x2={W - 8} y1={H / 2} y2={H / 2} stroke="var(--ink)" />
            {r.at.map((t, i) => (
              <circle key={t} cx={x(t)} cy={y(r.pa[i]!)} r="2.4" fill="var(--measure)" />
            ))}
            {[most, 0, -most].map((m) => (
              <text key={m} x={L - 6} y={y(m) + 5} textAnchor="end" fontSize="14" fill="var(--ink)" className="figure">
                {m === 0 ? "0" : `${m > 0 ? "+" : "−"}${u.figure("pressure", Math.abs(m))}`}
              </text>
            ))}
          </svg>
          <figcaption className="text-note text-soft">
            Readings less the best cause, in {u.label("pressure")}. Hatched: what gauge, sun and shape may leave, twice over. {outside} of {r.at.length} points lie outside.
          </figcaption>
        </figure>
      )}
    </div>
  );
}
