import { useState } from "react";

import type { Job, StepOut } from "../api/client";
import type { Editor } from "../api/editor";
import { useCatalogue, useOrder, usePlan } from "../api/queries";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { Fault, Sheet } from "../ui/Sheet";
import { Waits } from "../ui/Waits";
import { calledOn } from "./parts";

const GOALS = [
  { value: "pump-down", label: "Pump the unit down" },
  { value: "rig-up", label: "Rig up" },
  { value: "sweep", label: "Nitrogen sweep" },
  { value: "purge", label: "Purge the hoses" },
  { value: "cores-out", label: "Pull the cores" },
  { value: "rig-alone", label: "Pull the rig alone" },
  { value: "draw", label: "Begin the draw" },
  { value: "check-hold", label: "Check-hold" },
  { value: "valve-flush", label: "Work the valves" },
  { value: "swap-hose", label: "Swap a hose" },
  { value: "oil-change", label: "Change the oil" },
  { value: "nitrogen-break", label: "Nitrogen break" },
  { value: "hold", label: "Isolate for the hold test" },
  { value: "retest", label: "Hold it again" },
  { value: "release-unit", label: "Release the unit's charge" },
  { value: "release-cylinder", label: "Charge from a cylinder" },
  { value: "end-cylinder", label: "Leave it under vacuum" },
];

/** The derived order of touches on this rig, for what is to be done next. */
export function Orders({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const [goal, setGoal] = useState("hold");
  const plan = usePlan(jobKey, editor.version);
  const hoses = (job.rig?.parts ?? []).filter((p) => p.kind === "hose").map((p) => ({ value: p.id, label: plan.data ? calledOn(plan.data, p.id) : p.id }));
  const [picked, setHose] = useState("");
  const hose = hoses.some((h) => h.value === picked) ? picked : (hoses[0]?.value ?? "");
  return (
    <Sheet title="Steps in order, on this rig" fold="draw-orders" className="md:col-span-2">
      <div className="grid max-w-xl gap-3 sm:grid-cols-2">
        <SelectField label="What is to be done" value={goal} options={GOALS} onChange={setGoal} />
        {goal === "swap-hose" && <SelectField label="Which hose" value={hose} options={hoses} onChange={setHose} />}
      </div>
      <OrderList jobKey={jobKey} goal={goal} on={goal === "swap-hose" ? hose : ""} version={editor.version} />
      <Habits job={job} editor={editor} />
    </Sheet>
  );
}

/** One derived order. */
export function OrderList({ jobKey, goal, version, on = "" }: { jobKey: string; goal: string; version: number; on?: string }) {
  const order = useOrder(jobKey, goal, version, on);
  return (
    <>
      {order.isPending && <Waits />}
      {order.error && <Fault title="No order" detail={order.error.message} />}
      <ol aria-label="Order of steps" className="mt-3 grid list-none gap-x-8 gap-y-2 p-0 md:grid-cols-2">
        {(order.data ?? []).map((s, i) => (
          <li key={`${i}${s.value}`} className="flex gap-3">
            <span className="figure w-7 flex-none text-right text-lead font-bold">{s.value.startsWith("missing:") ? "!" : i + 1}</span>
            <StepBody step={s} />
          </li>
        ))}
      </ol>
    </>
  );
}

/** What schools differ in: the choice made here, with the reason its people give. */
function Habits({ job, editor }: { job: Job; editor: Editor }) {
  const { data } = useCatalogue();
  const habits = job.habits ?? {};
  return (
    <details className="mt-4 border-t-2 border-rule pt-2">
      <summary className="casual min-h-12 cursor-pointer py-2 text-lead font-bold">Where practice differs, and how it is done here</summary>
      <div className="grid gap-4 md:grid-cols-2">
        {(data?.habits ?? []).map((q) => {
          const value = String((habits as Record<string, unknown>)[q.field]);
          const chosen = q.options.find((o) => o.value === value);
          const stored = (v: string) => (v === "true" ? true : v === "false" ? false : v);
          return (
            <div key={q.field}>
              <Segments
                label={q.words}
                value={value}
                options={q.options.map((o) => ({ value: o.value, label: o.label }))}
                onChange={(v) => editor.edit((j) => ({ ...j, habits: { ...j.habits, [q.field]: stored(v) } }))}
              />
              <p className="mt-1 text-soft">{chosen?.note}</p>
            </div>
          );
        })}
      </div>
    </details>
  );
}

/** A step: what to do, why, and the cautions that no order avoids. */
export function StepBody({ step, large = false }: { step: StepOut; large?: boolean }) {
  return (
    <div>
      <div className={large ? "casual text-order leading-tight font-extrabold" : "font-bold"}>{step.label}</div>
      <div className="text-soft">{step.note}</div>
      {(step.care ?? []).map((c) => (
        <div key={c} className="mt-1 border-l-4 border-ochre pl-3">
          {c}
        </div>
      ))}
    </div>
  );
}
