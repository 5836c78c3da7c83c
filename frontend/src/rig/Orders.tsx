import { useState } from "react";

import type { StepOut } from "../api/client";
import { useOrder } from "../api/queries";
import { useUnits } from "../lib/units";
import { Segments } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";

const GOALS = [
  { value: "draw", label: "begin the draw" },
  { value: "check-hold", label: "check-hold" },
  { value: "hold", label: "hold" },
  { value: "oil-change", label: "oil change" },
];

/** The derived order of touches on this rig, for what is to be done next. */
export function Orders({ jobKey, version }: { jobKey: string; version: number }) {
  const [goal, setGoal] = useState("hold");
  const order = useOrder(jobKey, goal, version);
  return (
    <Sheet title="In what order, on this rig" className="md:col-span-2">
      <Segments label="to" value={goal} options={GOALS} onChange={setGoal} />
      {order.error && <Fault title="No order" detail={order.error.message} />}
      <ol aria-label="Order of touches" className="mt-3 grid list-none gap-x-8 gap-y-2 p-0 md:grid-cols-2">
        {(order.data ?? []).map((s, i) => (
          <li key={s.value} className="flex gap-3">
            <span className="figure w-7 flex-none text-right text-[19px] font-bold">{i + 1}</span>
            <StepBody step={s} />
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

/** A step: what to do, why, and the cautions that no order avoids. */
export function StepBody({ step, large = false }: { step: StepOut; large?: boolean }) {
  const u = useUnits();
  return (
    <div>
      <div className={large ? "casual text-[21px] leading-tight font-extrabold" : "font-bold"}>{step.label}</div>
      <div className="text-soft">{u.words(step.note ?? "")}</div>
      {(step.care ?? []).map((c) => (
        <div key={c} className="mt-1 border-l-4 border-ochre pl-3">
          {u.words(c)}
        </div>
      ))}
    </div>
  );
}
