import type { Hose, Path, PlanOut } from "../api/client";
import { useCatalogue, usePlan, useSystem } from "../api/queries";
import { micron, microns, span } from "../lib/format";
import { RigLine } from "../rig/RigLine";
import { Trace } from "../trace/Trace";
import { Button } from "../ui/Button";
import { NumberField, Segments, SelectField } from "../ui/Field";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import type { StageProps } from "./types";

type RigDoc = NonNullable<StageProps["job"]["rig"]>;

/** Pump, hoses, cores, gauge: what this rig will do, and what to change first. */
export function Rig({ jobKey, job, editor }: StageProps) {
  const plan = usePlan(jobKey, editor.version);
  const system = useSystem(jobKey, editor.version);
  const rig = job.rig!;
  const set = (change: Partial<RigDoc>) => editor.edit((j) => ({ ...j, rig: { ...j.rig!, ...change } }), "typing");
  return (
    <div className="grid gap-4">
      {plan.error && <Fault title="This rig cannot be computed" detail={plan.error.message} />}
      {plan.data && system.data && (
        <>
          <Sheet strong>
            <RigLine job={job} plan={plan.data} system={system.data} />
            <p className="mt-2">
              {plan.data.limit.charAt(0).toUpperCase() + plan.data.limit.slice(1)}.
            </p>
          </Sheet>
          <div className="grid items-start gap-4 md:grid-cols-[minmax(0,1fr)_380px]">
            <Prediction plan={plan.data} />
            <Changes plan={plan.data} onTake={(next) => editor.edit((j) => ({ ...j, rig: next }))} />
          </div>
        </>
      )}
      <div className="grid items-start gap-4 md:grid-cols-2">
        <PumpSheet rig={rig} set={set} />
        <GaugeSheet rig={rig} set={set} liquid={system.data?.has_liquid_port ?? true} plan={plan.data} />
        <Paths rig={rig} set={set} liquid={system.data?.has_liquid_port ?? true} />
      </div>
    </div>
  );
}

function Prediction({ plan }: { plan: PlanOut }) {
  const end = plan.times[plan.times.length - 1] ?? 3600;
  const day = new Date();
  day.setHours(0, 0, 0, 0);
  const start = day.getTime() / 1000;
  const time = plan.time_to_target_s;
  return (
    <Sheet title="The draw, as computed">
      <p>
        {time ? (
          <>
            <span className="figure text-[34px] font-bold">{span(time.value)}</span> to{" "}
            <span className="figure">{microns(plan.target_pa)} µ</span> everywhere in the system,{" "}
            <span className="text-soft">
              {span(time.low)} to {span(time.high)}
            </span>
          </>
        ) : (
          <span className="casual text-[22px] font-bold text-stop">This rig does not reach {microns(plan.target_pa)} µ within a day.</span>
        )}
      </p>
      <Trace
        label="Predicted pressure at the gauge, hours and minutes from the start"
        series={[]}
        log
        height={280}
        from={start}
        to={start + end}
        bottom={Math.min(100, micron(plan.target_pa) / 2)}
        pencils={[{ at: plan.times.map((t) => t + start), low: plan.gauge_low, mid: plan.gauge_mid, high: plan.gauge_high }]}
        levels={[{ pa: plan.target_pa, label: `target ${microns(plan.target_pa)} µ`, tone: "green" }]}
      />
      <p className="text-soft">Hours and minutes from the start. The hatched band is what volume, water, cores, pump and hoses leave open.</p>
    </Sheet>
  );
}

function Changes({ plan, onTake }: { plan: PlanOut; onTake: (rig: RigDoc) => void }) {
  return (
    <Sheet title="What to change first" className="h-full">
      {plan.upgrades.length === 0 ? (
        <p>No single change would save more than a second. This rig is as good as it gets for this job.</p>
      ) : (
        <ol className="list-none p-0">
          {plan.upgrades.slice(0, 5).map((u) => (
            <li key={u.key} className="flex items-center gap-3 border-t border-rule py-2 first:border-0 first:pt-0">
              <div className="min-w-0 flex-1">
                <div className="font-bold">{u.change}</div>
                <div className="text-soft">
                  {plan.time_to_target_s ? "saves" : "gets there in"}{" "}
                  <span className="figure">{span(plan.time_to_target_s ? u.seconds_saved : u.time_to_target_s)}</span>
                </div>
              </div>
              <Button aria-label={`Take: ${u.change}`} onClick={() => onTake(u.job.rig!)}>
                Take
              </Button>
            </li>
          ))}
        </ol>
      )}
    </Sheet>
  );
}

interface PartProps {
  rig: RigDoc;
  set: (change: Partial<RigDoc>) => void;
}

function PumpSheet({ rig, set }: PartProps) {
  const { data: cat } = useCatalogue();
  const pump = rig.pump!;
  const kit = cat?.kit.filter((k) => k.kind === "pump") ?? [];
  return (
    <Sheet title="Pump">
      {kit.length > 0 && (
        <div className="mb-3 flex flex-wrap gap-2">
          {kit.map((k) => (
            <Button key={k.id} kind={k.values.name === pump.name ? "solid" : "line"} onClick={() => set({ pump: k.values as RigDoc["pump"] })}>
              {k.name}
            </Button>
          ))}
        </div>
      )}
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Displacement"
          value={String(pump.plate_cfm)}
          options={[...new Set([...(cat?.pumps_cfm ?? []), pump.plate_cfm ?? 5])].sort((a, b) => a - b).map((c) => ({ value: String(c), label: `${c} CFM` }))}
          onChange={(v) => set({ pump: { ...pump, plate_cfm: Number(v), name: "" } })}
        />
        <NumberField label="Blank-off, measured" unit="µ" optional min={1} max={20000} value={pump.blank_off_micron} onChange={(v) => set({ pump: { ...pump, blank_off_micron: v } })} />
        <SelectField
          label="Oil"
          value={pump.oil ?? "fresh"}
          options={[
            { value: "fresh", label: "fresh" },
            { value: "used", label: "used" },
            { value: "wet", label: "milky, wet" },
          ]}
          onChange={(v) => set({ pump: { ...pump, oil: v as "fresh" } })}
        />
      </div>
    </Sheet>
  );
}

function GaugeSheet({ rig, set, liquid, plan }: PartProps & { liquid: boolean; plan: PlanOut | undefined }) {
  const gauge = rig.gauge!;
  const tools = (rig.paths ?? []).filter((p) => p.tool !== false).map((p) => p.port!);
  const options = [
    { value: "pump", label: "at the pump" },
    ...(rig.manifold !== "none" ? [{ value: "manifold", label: "at the manifold" }] : []),
    ...tools.map((t) => ({ value: `tool:${t}`, label: `on the ${t} tool` })),
    { value: "port:suction", label: "on the suction port" },
    ...(liquid ? [{ value: "port:liquid", label: "on the liquid port" }] : []),
  ];
  return (
    <Sheet title="Gauge">
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField label="Place" value={gauge.place!} options={options} onChange={(v) => set({ gauge: { ...gauge, place: v as "pump" } })} />
        <Segments
          label="Valve of its own"
          value={gauge.own_valve === false ? "no" : "yes"}
          options={[
            { value: "yes", label: "Yes" },
            { value: "no", label: "No" },
          ]}
          onChange={(v) => set({ gauge: { ...gauge, own_valve: v === "yes" } })}
        />
        <NumberField label="Resolution" unit="µ" min={0.1} max={1000} value={gauge.resolution_micron} onChange={(v) => v !== null && set({ gauge: { ...gauge, resolution_micron: v } })} />
        <NumberField label="Reads from" unit="µ" min={1000} max={800000} value={gauge.over_micron} onChange={(v) => v !== null && set({ gauge: { ...gauge, over_micron: v } })} />
      </div>
      {plan && (
        <ul className="mt-3 list-none p-0">
          <li className="flex items-baseline gap-2">
            <Tag tone={micron(plan.gauge_error_pa) > 0.25 * micron(plan.target_pa) ? "caution" : "pass"}>
              reads {micron(Math.abs(plan.gauge_error_pa)).toFixed(0)} µ {plan.gauge_error_pa >= 0 ? "low" : "high"}
            </Tag>
            <span>at the target, against the worst spot</span>
          </li>
          <li className="mt-2 flex items-baseline gap-2">
            <Tag tone={plan.gauge_inside ? "pass" : "stop"}>hold</Tag>
            <span>
              isolate at {plan.isolate_where}: {plan.isolate_inside}
            </span>
          </li>
          {gauge.own_valve === false && (
            <li className="mt-2 flex items-baseline gap-2">
              <Tag tone="caution">exposed</Tag>
              <span>no valve under it: it will see refrigerant</span>
            </li>
          )}
        </ul>
      )}
    </Sheet>
  );
}

function Paths({ rig, set, liquid }: PartProps & { liquid: boolean }) {
  const paths = rig.paths ?? [];
  const change = (i: number, p: Partial<Path>) => set({ paths: paths.map((q, n) => (n === i ? { ...q, ...p } : q)) });
  const free = (["suction", "liquid"] as const).filter((s) => (s === "suction" || liquid) && !paths.some((p) => p.port === s));
  return (
    <Sheet title="Hoses and ports" className="md:col-span-2">
      <div className="mb-4">
        <Segments
          label="Manifold"
          value={rig.manifold ?? "none"}
          options={[
            { value: "none", label: "None" },
            { value: "two-valve", label: "Two-valve" },
            { value: "four-port", label: "Four-port" },
          ]}
          onChange={(v) =>
            set({
              manifold: v as "none",
              gauge: v === "none" && rig.gauge!.place === "manifold" ? { ...rig.gauge!, place: "port:suction" } : rig.gauge,
            })
          }
        />
      </div>
      <div className="grid gap-4 md:grid-cols-2">
        {rig.manifold !== "none" && (
          <fieldset className="rounded-[5px] border-2 border-rule p-3">
            <legend className="casual px-1 font-bold">Pump to manifold</legend>
            <HoseFields hose={rig.pump_hose!} onChange={(h) => set({ pump_hose: h })} />
          </fieldset>
        )}
        {paths.map((p, i) => (
          <fieldset key={p.port} className="rounded-[5px] border-2 border-rule p-3">
            <legend className="casual px-1 font-bold">{p.port === "suction" ? "Suction port" : "Liquid port"}</legend>
            <HoseFields hose={p.hose!} onChange={(h) => change(i, { hose: h })} />
            <div className="mt-3 flex flex-wrap gap-x-6 gap-y-3">
              <Segments
                label="Core tool"
                value={p.tool === false ? "no" : "yes"}
                options={[
                  { value: "yes", label: "Yes" },
                  { value: "no", label: "No" },
                ]}
                onChange={(v) => change(i, v === "yes" ? { tool: true } : { tool: false, core: "in" })}
              />
              <Segments
                label="Valve core"
                value={p.core ?? "out"}
                options={[
                  { value: "out", label: "Pulled" },
                  { value: "in", label: "Left in" },
                ]}
                onChange={(v) => change(i, v === "out" ? { core: "out", tool: true } : { core: "in" })}
              />
              {paths.length > 1 && (
                <Button kind="quiet" className="self-end" onClick={() => set({ paths: paths.filter((_, n) => n !== i) })}>
                  Take off
                </Button>
              )}
            </div>
          </fieldset>
        ))}
        {free.map((side) => (
          <Button
            key={side}
            className="self-start"
            onClick={() => set({ paths: [...paths, { port: side, hose: paths[0]!.hose, tool: true, core: "out" }] })}
          >
            Add a hose to the {side} port
          </Button>
        ))}
      </div>
    </Sheet>
  );
}

function HoseFields({ hose, onChange }: { hose: Hose; onChange: (h: Hose) => void }) {
  const { data: cat } = useCatalogue();
  return (
    <div className="grid grid-cols-2 gap-3">
      <SelectField label="Bore" value={hose.size!} options={(cat?.hose_sizes ?? []).map((s) => ({ value: s, label: s }))} onChange={(v) => onChange({ ...hose, size: v })} />
      <NumberField label="Length" unit="m" min={0.1} max={30} value={hose.length_m} onChange={(v) => v !== null && onChange({ ...hose, length_m: v })} />
      <SelectField
        label="Kind"
        value={hose.kind!}
        options={[
          { value: "vacuum", label: "vacuum hose" },
          { value: "pressure", label: "charging hose" },
        ]}
        onChange={(v) => onChange({ ...hose, kind: v as "vacuum" })}
      />
      <SelectField
        label="Age"
        value={hose.age!}
        options={[
          { value: "new", label: "new" },
          { value: "used", label: "used, cured" },
          { value: "old", label: "old, oily" },
        ]}
        onChange={(v) => onChange({ ...hose, age: v as "used" })}
      />
      <div className="col-span-2">
        <Segments
          label="Depressor in its end"
          value={hose.depressor ? "yes" : "no"}
          options={[
            { value: "no", label: "Taken out" },
            { value: "yes", label: "Still in" },
          ]}
          onChange={(v) => onChange({ ...hose, depressor: v === "yes" })}
        />
      </div>
    </div>
  );
}
