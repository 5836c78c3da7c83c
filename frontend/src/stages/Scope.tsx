import { useCatalogue, useSystem } from "../api/queries";
import { litres, microns } from "../lib/format";
import { NumberField, Segments, SelectField, TextField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";
import type { StageProps } from "./types";


type ScopeDoc = NonNullable<StageProps["job"]["scope"]>;

/** What is to be evacuated, and what follows from it. */
export function Scope({ jobKey, job, editor }: StageProps) {
  const { data: cat } = useCatalogue();
  const scope = job.scope!;
  const party = job.party!;
  const set = (change: Partial<ScopeDoc>, at: "once" | "typing" = "typing") =>
    editor.edit((j) => ({ ...j, scope: { ...j.scope!, ...change } }), at);
  const who = (change: Partial<typeof party>) => editor.edit((j) => ({ ...j, party: { ...j.party!, ...change } }), "typing");
  if (!cat) return <p className="text-soft">Fetching the lists…</p>;
  const sizes = cat.tube_sizes.map((s) => ({ value: s, label: s }));
  const hasLines = scope.system !== "cylinder";
  const hasCoil = scope.system === "remote-condensing-unit" || scope.system === "packaged";
  return (
    <div className="grid items-start gap-4 md:grid-cols-[1fr_340px]">
      <div className="grid gap-4">
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
        <Sheet title="System">
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <div className="sm:col-span-2">
              <SelectField
                label="Kind"
                value={scope.system ?? "remote-condensing-unit"}
                options={cat.systems}
                onChange={(v) => set({ system: v as ScopeDoc["system"] }, "once")}
              />
            </div>
            <SelectField label="Refrigerant" value={scope.refrigerant ?? ""} options={cat.refrigerants} onChange={(v) => set({ refrigerant: v }, "once")} />
            <SelectField label="Oil" value={scope.oil ?? ""} options={cat.oils} onChange={(v) => set({ oil: v }, "once")} />
            {hasLines && (
              <>
                <SelectField label="Suction line" value={scope.suction!.size!} options={sizes} onChange={(v) => set({ suction: { ...scope.suction!, size: v } }, "once")} />
                <NumberField label="its length" unit="m" min={0.1} max={300} value={scope.suction!.length_m} onChange={(v) => v !== null && set({ suction: { ...scope.suction!, length_m: v } })} />
                <SelectField label="Liquid line" value={scope.liquid!.size!} options={sizes} onChange={(v) => set({ liquid: { ...scope.liquid!, size: v } }, "once")} />
                <NumberField label="its length" unit="m" min={0.1} max={300} value={scope.liquid!.length_m} onChange={(v) => v !== null && set({ liquid: { ...scope.liquid!, length_m: v } })} />
              </>
            )}
            {hasCoil && (
              <>
                <NumberField label="Cooling capacity" unit="kW" min={0.1} max={500} value={scope.capacity_kw} onChange={(v) => v !== null && set({ capacity_kw: v })} />
                <NumberField label="Receiver" unit="l" min={0} max={200} value={scope.receiver_l} onChange={(v) => v !== null && set({ receiver_l: v })} />
                <NumberField label="Oil in the compressor" unit="kg" min={0} max={100} value={scope.oil_kg} onChange={(v) => v !== null && set({ oil_kg: v })} />
              </>
            )}
            <NumberField label="Volume, if measured" unit="l" optional min={0.01} max={5000} value={scope.volume_l} onChange={(v) => set({ volume_l: v })} />
          </div>
          {scope.system === "remote-condensing-unit" && (
            <div className="mt-3">
              <Segments
                label="Condensing unit"
                value={scope.condensing_unit_open ? "open" : "shut"}
                options={[
                  { value: "shut", label: "Valved off, holds its charge" },
                  { value: "open", label: "Open, evacuated too" },
                ]}
                onChange={(v) => set({ condensing_unit_open: v === "open" }, "once")}
              />
            </div>
          )}
        </Sheet>
        <Sheet title="Condition and weather">
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <div className="sm:col-span-2">
              <SelectField label="Why it was open" value={scope.condition ?? "open-hours"} options={cat.conditions} onChange={(v) => set({ condition: v as ScopeDoc["condition"] }, "once")} />
            </div>
            <NumberField label="Hours open" unit="h" min={0} max={8760} value={scope.open_hours} onChange={(v) => v !== null && set({ open_hours: v })} />
            <NumberField label="Humidity" unit="%" min={0} max={100} value={scope.humidity_pct} onChange={(v) => v !== null && set({ humidity_pct: v })} />
            <NumberField label="Ambient" unit="°C" min={-40} max={60} value={scope.ambient_c} onChange={(v) => v !== null && set({ ambient_c: v })} />
            <NumberField label="Coldest spot" unit="°C" min={-40} max={60} value={scope.coldest_c} onChange={(v) => v !== null && set({ coldest_c: v })} />
            <NumberField label="Elevation" unit="m" min={-400} max={5500} value={scope.elevation_m} onChange={(v) => v !== null && set({ elevation_m: v })} />
            <NumberField label="Standing water, if known" unit="g" optional min={0} max={20000} value={scope.free_water_g} onChange={(v) => set({ free_water_g: v })} />
          </div>
        </Sheet>
        <Sheet title="Charge">
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <NumberField label="Nameplate" unit="kg" optional min={0.01} max={2000} value={scope.nameplate_kg} onChange={(v) => set({ nameplate_kg: v })} />
            <NumberField label="Line included" unit="m" min={0} max={300} value={scope.included_length_m} onChange={(v) => v !== null && set({ included_length_m: v })} />
            <NumberField label="Adder" unit="g/m" min={0} max={1000} value={scope.adder_g_per_m} onChange={(v) => v !== null && set({ adder_g_per_m: v })} />
            <NumberField label="Held in the unit" unit="kg" min={0} max={2000} value={scope.held_in_unit_kg} onChange={(v) => v !== null && set({ held_in_unit_kg: v })} />
          </div>
        </Sheet>
      </div>
      <Follows jobKey={jobKey} editor={editor} job={job} />
    </div>
  );
}

/** What the scope works out. */
function Follows({ jobKey, job, editor }: Pick<StageProps, "jobKey" | "job" | "editor">) {
  const { data, error } = useSystem(jobKey, editor.version);
  const { data: cat } = useCatalogue();
  const school = job.criterion?.school ?? "deep-and-flat";
  if (error) return <Fault title="The system cannot be worked out" detail={error.message} />;
  if (!data) return <p className="text-soft">Working it out…</p>;
  const widest = Math.max(...data.sections.map((s) => s.volume_m3.value));
  const grams = (kg: number) => (kg * 1000 < 1 ? (kg * 1000).toFixed(2) : (kg * 1000).toFixed(kg > 0.01 ? 0 : 1));
  return (
    <div className="grid gap-4">
      <Sheet title="Inside" strong>
        <p className="figure text-[40px] leading-none font-bold">
          {(data.volume_m3.value * 1e3).toFixed(1)}
          <span className="text-[20px]"> l</span>
        </p>
        <p className="text-soft">
          {litres(data.volume_m3.low)} to {litres(data.volume_m3.high)}
        </p>
        <ul className="mt-3 list-none p-0">
          {data.sections.map((s) => (
            <li key={s.name} className="mb-2">
              <div className="flex justify-between">
                <span>{s.label}</span>
                <span className="figure">{(s.volume_m3.value * 1e3).toFixed(2)} l</span>
              </div>
              <div className="h-2 bg-rule">
                <div className="h-2 bg-pencil" style={{ width: `${(100 * s.volume_m3.value) / widest}%` }} />
              </div>
            </li>
          ))}
        </ul>
        <p className="mt-3 border-t-2 border-rule pt-3">
          <span className="font-bold text-ochre">Water</span> <span className="figure font-bold">{grams(data.water_kg.value)} g</span>{" "}
          <span className="text-soft">
            ({grams(data.water_kg.low)} to {grams(data.water_kg.high)}, estimate)
          </span>
          <br />
          boils at <span className="figure">{microns(data.water_boils_pa)} µ</span> at the coldest spot
        </p>
        {data.charge && (
          <p className="mt-3 border-t-2 border-rule pt-3">
            To weigh in <span className="figure font-bold">{data.charge.kg.toFixed(2)} kg</span>
            <br />
            <span className="text-soft">{data.charge.words}</span>
          </p>
        )}
      </Sheet>
      <Sheet title="Criterion">
        <SelectField
          label="School"
          value={school}
          options={(cat?.schools ?? []).map((s) => ({ value: s.value, label: s.label }))}
          onChange={(v) => editor.edit((j) => ({ ...j, criterion: { ...j.criterion!, school: v as "two-limit" } }))}
        />
        <p className="mt-2">{cat?.schools.find((s) => s.value === school)?.note}</p>
        {data.default_school !== school && (
          <p className="mt-2 text-soft">
            Proposed: {cat?.schools.find((s) => s.value === data.default_school)?.label}. {data.default_reason}.
          </p>
        )}
        {data.default_school === school && <p className="mt-2 text-soft">Proposed because: {data.default_reason}.</p>}
      </Sheet>
      <Sheet title="Cautions">
        <ul className="list-none p-0">
          {data.cautions.map((c) => (
            <li key={c} className="mb-2 border-l-4 border-ochre pl-3">
              {c}
            </li>
          ))}
        </ul>
      </Sheet>
    </div>
  );
}
