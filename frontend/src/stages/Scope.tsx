import type { ScopeDoc } from "../api/client";
import { useCatalogue, usePlan, useSystem } from "../api/queries";
import { Photos } from "../record/Photos";
import { Follows } from "../scope/Follows";
import { Reach } from "../scope/Reach";
import { SystemSheet, type Change } from "../scope/SystemSheet";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField, TextField } from "../ui/Field";
import { RefrigerantFields } from "./RefrigerantFields";
import { Fault, Sheet } from "../ui/Sheet";
import type { StageProps } from "./types";
import { Waits } from "../ui/Waits";

/** What is to be evacuated, and what follows from it. */
export function Scope({ jobKey, job, editor }: StageProps) {
  const { data: cat } = useCatalogue();
  const system = useSystem(jobKey, editor.version);
  const plan = usePlan(jobKey, editor.version);
  const scope = job.scope!;
  const set: Change = (change, at = "typing") => editor.edit((j) => ({ ...j, scope: { ...j.scope!, ...change } }), at);
  const toggle = (link: string) => set({ links: (scope.links ?? []).map((x) => (x.id === link ? { ...x, open: x.open === false } : x)) }, "once");
  if (!cat) return <Waits>Fetching the lists…</Waits>;
  return (
    <div className="grid gap-4">
      {plan.isPending && <Waits>Drawing it…</Waits>}
      {plan.data ? <Reach plan={plan.data} onLink={toggle} /> : plan.error && <Fault title="The rig does not fit this system yet" detail={plan.error.message} />}
      {system.isPending && <Waits>Working it out…</Waits>}
      <div className="grid items-start gap-4 md:grid-cols-[minmax(0,1fr)_340px]">
        <div className="grid gap-4">
          <Who job={job} editor={editor} />
          <SystemSheet jobKey={jobKey} scope={scope} set={set} editor={editor} system={system.data} />
          <Condition scope={scope} set={set} />
          <Charge scope={scope} set={set} jobKey={jobKey} />
        </div>
        {system.error ? (
          <Fault title="The system cannot be worked out" detail={system.error.message} />
        ) : (
          system.data && <Follows job={job} editor={editor} data={system.data} />
        )}
      </div>
    </div>
  );
}

interface Props {
  scope: ScopeDoc;
  set: Change;
}

function Who({ job, editor }: Pick<StageProps, "job" | "editor">) {
  const party = job.party!;
  const who = (change: Partial<typeof party>) => editor.edit((j) => ({ ...j, party: { ...j.party!, ...change } }), "typing");
  return (
    <Sheet title="Who and which unit">
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField label="Customer" value={party.customer ?? ""} onChange={(v) => who({ customer: v })} />
        <TextField label="Site" value={party.site ?? ""} onChange={(v) => who({ site: v })} />
        <TextField label="Unit" value={party.unit ?? ""} onChange={(v) => who({ unit: v })} />
        <TextField label="Technician" value={party.technician ?? ""} onChange={(v) => who({ technician: v })} />
        <TextField label="Licence" value={party.licence ?? ""} onChange={(v) => who({ licence: v })} />
        <TextField label="Firm" value={party.firm ?? ""} onChange={(v) => who({ firm: v })} />
      </div>
    </Sheet>
  );
}

function Condition({ scope, set }: Props) {
  const { data: cat } = useCatalogue();
  if (!cat) return null;
  const places = (scope.sections ?? []).filter((s) => !s.holds_charge).map((s) => ({ value: s.id, label: s.name || s.id }));
  return (
    <Sheet title="Condition and weather" fold="scope-condition">
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <div className="sm:col-span-2">
          <SelectField label="Why it was open" value={scope.condition ?? "open-hours"} options={cat.conditions} onChange={(v) => set({ condition: v }, "once")} />
        </div>
        <RefrigerantFields scope={scope} set={set} known={cat.refrigerants} />
        <SelectField label="Oil" value={scope.oil ?? ""} options={cat.oils} onChange={(v) => set({ oil: v }, "once")} />
        <NumberField label="Hours open" unit="h" min={0} max={8760} value={scope.open_hours} onChange={(v) => v !== null && set({ open_hours: v })} />
        <NumberField label="Humidity" unit="%" min={0} max={100} value={scope.humidity_pct} onChange={(v) => v !== null && set({ humidity_pct: v })} />
        <NumberField label="Ambient" dim="temperature" min={-40} max={60} value={scope.ambient_c} onChange={(v) => v !== null && set({ ambient_c: v })} />
        <NumberField label="Coldest spot" dim="temperature" min={-40} max={60} value={scope.coldest_c} onChange={(v) => v !== null && set({ coldest_c: v })} />
        <NumberField label="Oil in the system" dim="mass" min={0} max={200} value={scope.oil_kg} onChange={(v) => v !== null && set({ oil_kg: v })} />
        <NumberField label="Elevation" dim="length" min={-400} max={5500} value={scope.elevation_m} onChange={(v) => v !== null && set({ elevation_m: v })} />
        <NumberField label="Barometer, if read" dim="barometer" optional min={450} max={1090} value={scope.barometer_hpa} onChange={(v) => set({ barometer_hpa: v })} />
        <NumberField label="Volume, if measured" dim="volume" optional min={0.01} max={10000} value={scope.volume_l} onChange={(v) => set({ volume_l: v })} />
        <NumberField label="Standing water, if known" dim="grams" optional min={0} max={20000} value={scope.free_water_g} onChange={(v) => set({ free_water_g: v })} />
        <SelectField
          label="Water stands in"
          value={scope.water_section ?? "coldest"}
          options={[{ value: "coldest", label: "the coldest section" }, ...places]}
          onChange={(v) => set({ water_section: v === "coldest" ? null : v }, "once")}
        />
        <Segments
          label="Duty"
          value={scope.low_temperature ? "low" : "plain"}
          options={[
            { value: "plain", label: "Cooling" },
            { value: "low", label: "Freezing" },
          ]}
          onChange={(v) => set({ low_temperature: v === "low" }, "once")}
        />
        <Segments
          label="Custom here: vacuum in"
          value={scope.custom ?? "micron"}
          options={[
            { value: "micron", label: "microns" },
            { value: "bar", label: "mbar, Pa" },
          ]}
          onChange={(v) => set({ custom: v }, "once")}
        />
      </div>
    </Sheet>
  );
}

function Charge({ scope, set, jobKey }: Props & { jobKey: string }) {
  const computed = scope.adder_g_per_m === null;
  return (
    <Sheet title="Charge" fold="scope-charge">
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <NumberField label="Nameplate" dim="mass" optional min={0.01} max={2000} value={scope.nameplate_kg} onChange={(v) => set({ nameplate_kg: v })} />
        <NumberField label="Line included" dim="length" min={0} max={500} value={scope.included_length_m} onChange={(v) => v !== null && set({ included_length_m: v })} />
        <Segments
          label="Line adder"
          value={computed ? "computed" : "given"}
          options={[
            { value: "given", label: "Manufacturer's" },
            { value: "computed", label: "Computed" },
          ]}
          onChange={(v) => set({ adder_g_per_m: v === "computed" ? null : 0 }, "once")}
        />
        {!computed && <NumberField label="Adder" dim="adder" min={0} max={5000} value={scope.adder_g_per_m} onChange={(v) => v !== null && set({ adder_g_per_m: v })} />}
        <NumberField label="Accessories" dim="grams" min={0} max={100000} value={scope.accessories_g} onChange={(v) => v !== null && set({ accessories_g: v })} />
        <NumberField label="Held in the unit" dim="mass" min={0} max={2000} value={scope.held_in_unit_kg} onChange={(v) => v !== null && set({ held_in_unit_kg: v })} />
      </div>
      <div className="mt-3">
        <Photos jobKey={jobKey} about="nameplate" of="the nameplate" />
      </div>
    </Sheet>
  );
}
