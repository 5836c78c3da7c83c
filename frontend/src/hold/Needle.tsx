import type { VerdictOut } from "../api/client";
import { useUnits } from "../lib/units";
import { Sheet } from "../ui/Sheet";

/** What a dial gauge could have missed: the width of its needle, turned into a leak and into water. */
export function Needle({ v }: { v: VerdictOut }) {
  const u = useUnits();
  const n = v.needle;
  if (!n) return null;
  return (
    <Sheet title="What the needle could have missed" strong>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 text-lead">
        <dt className="text-soft">A leak of</dt>
        <dd>
          <b className="figure">{u.rate(n.rate_micron_s, false)}</b> <span className="figure text-soft">{u.scientific(n.leak_pa_m3_s)} Pa·m³/s</span>, which is about {u.grams(n.grams_per_year)} a year
        </dd>
        <dt className="text-soft">Water</dt>
        <dd>
          <b className="figure">{u.grams(n.water_g)}</b> as {u.spelled("vapor")}
        </dd>
        <dt className="text-soft">Because</dt>
        <dd>
          a needle can be off by <span className="figure">{u.say("pressure", n.blind_pa)}</span>, watched for <span className="figure">{Math.round(n.minutes)} min</span>
        </dd>
      </dl>
      <p className="mt-2">Recorded as unverified.</p>
    </Sheet>
  );
}
