import { Slider } from "radix-ui";

import type { Moment, PlanOut } from "../api/client";
import { span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Trace } from "../trace/Trace";
import { Sheet } from "../ui/Sheet";

const M = 101325 / 760000;

/** Hours and minutes since the start. */
const since = (s: number): string => `${Math.floor(s / 3600)}:${String(Math.round((s % 3600) / 60)).padStart(2, "0")}`;

/** The moment of the run nearest a time. */
export function momentAt(plan: PlanOut, at: number): Moment {
  return plan.moments.reduce((best, m) => (Math.abs(m.at - at) < Math.abs(best.at - at) ? m : best));
}

/** The predicted draw: when, with its band; dragging along it shows the pressures at any moment. */
export function Prediction({ plan, hand, onHand }: { plan: PlanOut; hand: number | null; onHand: (at: number | null) => void }) {
  const u = useUnits();
  const end = plan.times[plan.times.length - 1] ?? 3600;
  const last = plan.moments[plan.moments.length - 1]?.at ?? end;
  const time = plan.time_to_target_s;
  const moment = hand === null ? null : momentAt(plan, hand);
  return (
    <Sheet title="The draw, as computed" fold="rig-draw">
      <p>
        {time ? (
          <>
            <span className="figure text-figure font-bold" data-testid="time-to-target">
              {span(time.value)}
            </span>{" "}
            to <span className="figure">{u.say("pressure", plan.target_pa)}</span>{" "}
            {plan.left_out.length === 0 ? "everywhere in the system" : "in what the pump reaches"},{" "}
            <span className="text-soft">
              {span(time.low)} {time.high >= 24 * 3600 ? "or not within a day" : `to ${span(time.high)}`}
            </span>
          </>
        ) : (
          <span className="casual text-order font-bold text-stop">This rig does not reach {u.say("pressure", plan.target_pa)} within a day.</span>
        )}
      </p>
      <Trace
        label="Predicted pressure at the gauge against hours and minutes from the start"
        series={[]}
        log
        height={250}
        from={0}
        to={end}
        time={since}
        bottom={Math.min(100, plan.target_pa / M / 2)}
        pencils={[{ at: plan.times, low: plan.gauge_low, mid: plan.gauge_mid, high: plan.gauge_high }]}
        levels={[{ pa: plan.target_pa, label: `target ${u.say("pressure", plan.target_pa)}`, tone: "green" }]}
        hand={hand ?? undefined}
        onHand={onHand}
      />
      <Slider.Root
        min={0}
        max={Math.max(1, Math.min(end, last))}
        step={Math.max(1, Math.round(end / 200))}
        value={[hand ?? 0]}
        onValueChange={([v]) => onHand(v ?? 0)}
        className="relative mt-1 mr-6 ml-[68px] flex h-12 touch-none items-center md:ml-[84px]"
      >
        <Slider.Track className="relative h-[3px] grow bg-strong">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb aria-label="Moment of the draw" className="block size-7 rounded-full border-[3px] border-ink bg-sheet" />
      </Slider.Root>
      <p className="min-h-[44px] text-soft">
        {moment ? (
          <>
            After <span className="figure font-bold text-ink">{span(moment.at)}</span>: {moment.words}. The line above shows that moment.
          </>
        ) : (
          "Drag along the trace to see every pressure at that moment. The hatched band is what volume, water, cores, pump and hoses leave open."
        )}
      </p>
    </Sheet>
  );
}
