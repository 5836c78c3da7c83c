import { NumberField } from "../ui/Field";

/** What is read of a pressure test: gauge kPa, °C, minutes. */
export interface TestRead {
  startKpa: number | null | undefined;
  startC: number | null | undefined;
  endKpa: number | null | undefined;
  endC: number | null | undefined;
  minutes: number | null | undefined;
}

/** The five figures of a pressure test in the order in which they are read: the start, the end, what lies between. */
export function TestFields({ read: r, onChange }: { read: TestRead; onChange: (change: { [K in keyof TestRead]?: number | null }) => void }) {
  return (
    <>
      <NumberField label="Pressure at the start" dim="gauge" per={1000} optional min={0} max={10000} value={r.startKpa} onChange={(v) => onChange({ startKpa: v })} />
      <NumberField label="Temperature at the start" dim="temperature" optional min={-40} max={80} value={r.startC} onChange={(v) => onChange({ startC: v })} />
      <NumberField label="Pressure at the end" dim="gauge" per={1000} optional min={0} max={10000} value={r.endKpa} onChange={(v) => onChange({ endKpa: v })} />
      <NumberField label="Temperature at the end" dim="temperature" optional min={-40} max={80} value={r.endC} onChange={(v) => onChange({ endC: v })} />
      <NumberField label="Minutes" unit="min" optional min={0} max={10000} value={r.minutes} onChange={(v) => onChange({ minutes: v })} />
    </>
  );
}
