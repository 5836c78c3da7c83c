import type { ReactNode } from "react";

import type { VerdictOut } from "../api/client";
import { span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Sheet } from "../ui/Sheet";

/** What the verdict measures: rates, leak, water, each with its interval; where it is going. */
export function Figures({ v }: { v: VerdictOut }) {
  const u = useUnits();
  const leaks = v.verdict === "leak" || v.verdict === "leak-and-moisture";
  const wet = v.verdict === "moisture" || v.verdict === "leak-and-moisture";
  const between = (r: { low: number; high: number }, say: (x: number) => string) => (
    <span className="figure block text-soft">
      {say(r.low)} to {say(r.high)}
    </span>
  );
  const rate = (x: number) => u.rate(x, false);
  return (
    <Sheet title="Figures" fold="hold-figures" aside="at 90 %">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
        <Item name="Rises now">
          <b className="figure">{u.rate(v.slope_micron_s.value)}</b> {between(v.slope_micron_s, (x) => u.rate(x))}
          {v.rising && v.verdict === "tight-and-dry" && <span className="block">still rising, which a standard may not accept</span>}
        </Item>
        {leaks && (
          <>
            <Item name="Leak">
              <b className="figure">{rate(v.rate_micron_s.value)}</b> {between(v.rate_micron_s, rate)}
              <br />
              <span className="figure">{u.scientific(v.leak_pa_m3_s.value)}</span> {between(v.leak_pa_m3_s, u.scientific)} <span className="text-soft">Pa·m³/s</span>
            </Item>
          </>
        )}
        <Item name="Smallest leak it could show">
          <span className="figure">{rate(v.detection_micron_s)}</span>
        </Item>
        {wet && (
          <Item name="Water left">
            <b className="figure">{u.grams(v.moisture_g.value)}</b> {between(v.moisture_g, u.grams)}
          </Item>
        )}
        {v.ahead.map((a) => (
          <Item key={a.seconds} name={`In ${a.seconds >= 86400 ? "24 h" : a.seconds >= 3600 ? "1 h" : span(a.seconds)}`}>
            <b className="figure">{u.say("pressure", a.pa.value)}</b> {between(a.pa, (x) => u.figure("pressure", x))}
          </Item>
        ))}
        <Item name="Volume">
          <span className="figure">{u.say("volume", v.volume_l.value)}</span> {between(v.volume_l, (x) => u.figure("volume", x))}
        </Item>
      </dl>
      {v.loss.map((l) => (
        <p key={l} className="mt-2 text-soft">
          {l}
        </p>
      ))}
    </Sheet>
  );
}

function Item({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  );
}
