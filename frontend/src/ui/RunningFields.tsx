import { NumberField } from "./Field";

/** What is read on a running unit: pressures in kPa over the atmosphere, temperatures in °C, null where not read. */
export type RunningRead = Partial<Record<(typeof FIELDS)[number]["key"], number | null>>;

const FIELDS = [
  { key: "suction_kpa", label: "Suction pressure", low: -100, high: 5000 },
  { key: "suction_c", label: "Suction line", low: -90, high: 120 },
  { key: "liquid_kpa", label: "Liquid pressure", low: -100, high: 8000 },
  { key: "liquid_c", label: "Liquid line", low: -90, high: 120 },
  { key: "in_c", label: "Air or water in", low: -90, high: 120 },
  { key: "out_c", label: "Air or water out", low: -90, high: 120 },
] as const;

/** The six figures of a running unit, the same after the start and on a later visit. */
export function RunningFields({ value, onChange }: { value: RunningRead; onChange: (change: RunningRead) => void }) {
  return FIELDS.map(({ key, label, low, high }) => {
    const kind = key.endsWith("_kpa") ? ({ dim: "gauge", per: 1000 } as const) : ({ dim: "temperature" } as const);
    return <NumberField key={key} label={label} {...kind} optional min={low} max={high} value={value[key]} onChange={(v) => onChange({ [key]: v })} />;
  });
}
