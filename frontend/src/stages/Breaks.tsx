import { useQuery } from "@tanstack/react-query";

import { options } from "../api/options";
import { range, span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Sheet, Tag } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** Breaks with nitrogen: what each takes out of this system, and what it costs in time. */
export function Breaks({ jobKey, version, made }: { jobKey: string; version: number; made: number }) {
  const u = useUnits();
  const { data, isPending } = useQuery(options.breaks(jobKey, version));
  if (isPending) return <Waits />;
  if (!data || (data.asked === 0 && !data.wet)) return null;
  const most = Math.max(...data.cycles.map((c) => c.bound_g.high + c.free_g.high + c.vapour_g.high), 1e-9);
  return (
    <Sheet title="Nitrogen breaks" fold="draw-breaks" className="md:col-span-2">
      <p>
        {data.asked > 0 && (
          <>
            The standard asks for <b>{data.asked}</b>
            {made > 0 && `; ${made} made`}.{" "}
          </>
        )}
        For this system by itself <b>{data.advised === 0 ? "none" : data.advised}</b> would do. {data.why} Each break leaves about 1 part in{" "}
        <span className="figure">{Math.round(1 / data.share)}</span> of the {u.spelled("vapor")}; water in oil and on walls leaves at its own pace.
      </p>
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Breaks with nitrogen, what each takes out">
        <table className="w-full min-w-[520px] text-left">
          <thead>
            <tr className="text-soft">
              <th className="font-normal">breaks</th>
              <th className="font-normal">to the target</th>
              <th className="font-normal">water left</th>
              <th className="w-1/3" aria-hidden />
            </tr>
          </thead>
          <tbody>
            {data.cycles.map((c) => {
              const left = c.free_g.value + c.bound_g.value + c.vapour_g.value;
              const low = c.free_g.low + c.bound_g.low + c.vapour_g.low;
              const high = c.free_g.high + c.bound_g.high + c.vapour_g.high;
              return (
                <tr key={c.breaks} className="border-t border-rule">
                  <td className="figure py-2">
                    <b>{c.breaks}</b> {c.breaks === data.asked && data.asked > 0 && <Tag tone="plain">asked</Tag>}
                  </td>
                  <td className="figure">{c.time_s ? span(c.time_s.value) : "not in half a day"}</td>
                  <td className="figure">{range({ low, high }, u.grams)}</td>
                  <td>
                    <div className="relative h-3 bg-green-wash" role="img" aria-label={`about ${u.grams(left)}`}>
                      <div className="hatch absolute inset-y-0" style={{ left: `${(100 * low) / most}%`, right: `${100 - (100 * high) / most}%` }} />
                      <div className="absolute inset-y-0 w-1 bg-ink" style={{ left: `${(99 * left) / most}%` }} />
                    </div>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-note text-soft">Computed from the sheet, with five minutes of standing at each break: an estimate. The manufacturer&apos;s and the standard&apos;s count comes first.</p>
    </Sheet>
  );
}
