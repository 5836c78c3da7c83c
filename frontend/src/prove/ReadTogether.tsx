import type { GateOut, Job, ProofStageOut, ProveOut } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { readingOf, withOil, withStage, type OilLook } from "./evidence";
import { TestFields } from "./TestFields";
import type { ProveDoc } from "./types";

/** What was read in one go before the draw; null or empty is what was not. Gauge kPa, °C, minutes, microns. */
export interface Figures {
  startKpa: number | null;
  endKpa: number | null;
  startC: number | null;
  endC: number | null;
  minutes: number | null;
  oil: OilLook | "";
  inAir: "" | "over" | "figure";
  /** Where the gauge on the pump settled at each stage of the rig proof. */
  settled: Record<string, number | null>;
}

export const NOTHING_READ: Figures = { startKpa: null, endKpa: null, startC: null, endC: null, minutes: null, oil: "", inAir: "", settled: {} };

/** Open checks that are read, not seen. */
const READ = ["pressure-test", "oil", "blank-off", "rig-proof", "gauge"];
export const toBeRead = (gates: GateOut[]): GateOut[] => gates.filter((g) => g.state === "open" && READ.includes(g.kind));

/** Stages of the rig proof that these checks want: the pump alone is the blank-off; what is optional has its own page. */
const stagesOf = (gates: GateOut[], stages: ProofStageOut[]): ProofStageOut[] =>
  stages.filter((s) => gates.some((g) => g.kind === (s.key === "pump" ? "blank-off" : "rig-proof")) && s.verdict === "open" && !s.optional);

/** The sheet with what was read. What was not read stays as it was. */
export function withRead(job: Job, gates: GateOut[], proof: ProveOut, f: Figures): Job {
  let next = job;
  const put = (change: Partial<ProveDoc>) => {
    next = { ...next, prove: { ...next.prove!, ...change } };
  };
  // Temperatures alone, which are proposed, are no test.
  if (gates.some((g) => g.kind === "pressure-test") && f.startKpa !== null)
    put({ test_start_kpa: f.startKpa, test_end_kpa: f.endKpa, test_start_c: f.startC, test_end_c: f.endC, test_minutes: f.minutes });
  if (f.oil) next = withOil(next, f.oil);
  if (f.inAir) put({ gauge: { ...next.prove!.gauge, in_air: f.inAir } });
  for (const s of stagesOf(gates, proof.stages)) {
    const settled = f.settled[s.key];
    if (settled !== null && settled !== undefined) next = withStage(next, proof.stages, s.key, { ...readingOf(next.prove!, s.key), settled_micron: settled });
  }
  return next;
}

/** The figures of the open checks, in one place. */
export function ReadTogether({ gates, proof, figures: f, onChange }: { gates: GateOut[]; proof: ProveOut; figures: Figures; onChange: (change: Partial<Figures>) => void }) {
  const of = (kind: string) => gates.find((g) => g.kind === kind);
  const [test, oil, gauge] = [of("pressure-test"), of("oil"), of("gauge")];
  const stages = stagesOf(gates, proof.stages);
  return (
    <>
      {test && (
        <section aria-label={test.title}>
          <p className="mb-1 text-soft">{test.title}</p>
          <div className="grid grid-cols-2 items-end gap-3">
            <TestFields read={f} onChange={onChange} />
          </div>
        </section>
      )}
      {oil && <Segments label={oil.title} value={f.oil} options={proof.oil.looks} onChange={(v) => onChange({ oil: v as OilLook })} />}
      {gauge && (
        <Segments
          label={`${gauge.title}: in free air it shows`}
          value={f.inAir}
          options={[
            { value: "over", label: "over range" },
            { value: "figure", label: "a figure" },
          ]}
          onChange={(v) => onChange({ inAir: v as Figures["inAir"] })}
        />
      )}
      {stages.length > 0 && (
        <section aria-label="On the pump">
          <p className="mb-1 text-soft">Where the gauge on the pump settles, one part at a time</p>
          <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-3">
            {stages.map((s) => (
              <NumberField key={s.key} label={s.short} dim="pressure" per={MICRON_PA} optional min={0} max={800000} value={f.settled[s.key]} onChange={(v) => onChange({ settled: { ...f.settled, [s.key]: v } })} />
            ))}
          </div>
        </section>
      )}
    </>
  );
}
