import type { VerdictOut } from "../api/client";
import { useUnits } from "../lib/units";
import { Sheet } from "../ui/Sheet";

/** What a dial gauge could have missed: the width of its needle, turned into a leak and into water. */
export function Needle({ v }: { v: VerdictOut }) {
  const u = useUnits();
  const n = v.needle;
  if (!n) return null;
  return (
    <Sheet title={n.moved ? "The needle moved" : "What the needle could have missed"} strong>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 text-lead">
        <dt className="text-soft">It stood at</dt>
        <dd className="figure">
          {n.first_pa === null ? "not read" : u.say("pressure", n.first_pa)}
          {n.last_pa !== null && ` at first, ${u.say("pressure", n.last_pa)} after ${Math.round(n.minutes)} min`}
        </dd>
        <dt className="text-soft">Leak missed</dt>
        <dd>
          <b className="figure">{u.rate(n.rate_micron_s, false)}</b> <span className="figure text-soft">{u.scientific(n.leak_pa_m3_s)} Pa·m³/s</span>
        </dd>
        <dt className="text-soft">Water missed</dt>
        <dd>
          <b className="figure">{u.grams(n.water_g)}</b> as {u.spelled("vapor")}
        </dd>
        <dt className="text-soft">Because</dt>
        <dd>
          a needle can be off by <span className="figure">{u.say("pressure", n.blind_pa)}</span>
        </dd>
      </dl>
      <p className="mt-2">{n.moved ? "A needle shows only large rises, and it showed one." : "Recorded as unverified."}</p>
    </Sheet>
  );
}
