import { OrderList } from "../rig/Orders";
import { ATMOSPHERE_PA, MICRON_PA, stamp } from "../lib/format";
import { useSaveSettings, useSettings, useUnits } from "../lib/units";
import { pumpOf, withPart } from "../rig/parts";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { Tick } from "../ui/Tick";
import { NumberField, TextField } from "../ui/Field";
import { TestFields, type TestRead } from "./TestFields";
import { Tag } from "../ui/Sheet";
import { withOil, type OilLook } from "./evidence";
import { OilGlass } from "./OilGlass";
import { gateOf, type GateProps } from "./types";

const TONES: Record<string, "pass" | "caution" | "stop" | "plain"> = {
  good: "pass",
  tight: "pass",
  usable: "caution",
  due: "caution",
  doubtful: "caution",
  "too-short": "caution",
  bad: "stop",
  leaks: "stop",
  "too-low": "stop",
  open: "plain",
};
const SAYS: Record<string, string> = { "too-short": "too short", "too-low": "pressure too low", open: "not judged yet" };

/** A judgement: one word, and why. */
export function Judged({ verdict, words }: { verdict: string; words: string }) {
  return (
    <p role="status">
      <Tag tone={TONES[verdict] ?? "plain"}>{SAYS[verdict] ?? verdict}</Tag> {words}
    </p>
  );
}

/** Things to be seen, ticked one by one. */
export function ItemsForm({ gate, prove, set, jobKey, editor }: GateProps) {
  const doc = gateOf(prove, gate.key);
  const seen = doc.items ?? [];
  const put = (change: Partial<typeof doc>) => set({ gates: { ...prove.gates, [gate.key]: { ...doc, state: doc.state === "skipped" ? "open" : doc.state, ...change } } });
  return (
    <>
      {gate.any_of && <p className="text-soft">One of these is enough.</p>}
      <ul className="grid list-none gap-1 p-0">
        {gate.items.map((i) => {
          const on = seen.includes(i.value);
          return (
            <li key={i.value}>
              <Tick label={i.label} on={on} onChange={(v) => put({ items: v ? [...seen, i.value] : seen.filter((s) => s !== i.value) })} />
            </li>
          );
        })}
      </ul>
      <TextField label="Evidence: how it was seen, and by whom" value={doc.state === "skipped" ? "" : (doc.note ?? "")} onChange={(v) => put({ note: v })} />
      {gate.kind === "sweep" && <OrderList jobKey={jobKey} goal="sweep" version={editor.version} />}
    </>
  );
}

/** A difference of gauge pressures has no "gauge" to its name. */
const STEPS: Record<string, string> = { psig: "psi", bar: "bar", kpa: "kPa" };

const TEST_KINDS: { value: "tightness" | "strength"; label: string }[] = [
  { value: "tightness", label: "Tightness test" },
  { value: "strength", label: "Strength test" },
];

/** Where the sheet keeps what is read of the test that goes on. */
const KEPT = { startKpa: "test_start_kpa", startC: "test_start_c", endKpa: "test_end_kpa", endC: "test_end_c", minutes: "test_minutes" } as const;

/** The pressure test: what was read, and the drop that the temperature does not explain. */
export function TestForm({ proof, prove, set }: GateProps) {
  const u = useUnits();
  const t = proof.test;
  // A retest never writes over what was read before it.
  const again = () => {
    const { test_kind: kind, test_start_kpa: start_kpa, test_end_kpa: end_kpa, test_start_c: start_c, test_end_c: end_c, test_minutes: minutes, test_wanted_kpa: wanted_kpa, test_step_kpa: step_kpa } = prove;
    const kept = { kind, start_kpa, end_kpa, start_c, end_c, minutes, wanted_kpa, step_kpa, at: Math.round(Date.now() / 1000), note: "" };
    set({ tests: [...(prove.tests ?? []), kept], test_start_kpa: null, test_end_kpa: null, test_start_c: null, test_end_c: null, test_minutes: null });
  };
  const read: TestRead = { startKpa: prove.test_start_kpa, startC: prove.test_start_c, endKpa: prove.test_end_kpa, endC: prove.test_end_c, minutes: prove.test_minutes };
  const take = (change: Partial<TestRead>) => set(Object.fromEntries(Object.entries(change).map(([k, v]) => [KEPT[k as keyof TestRead], v])));
  return (
    <>
      <Segments label="Test" value={prove.test_kind ?? "tightness"} options={TEST_KINDS} onChange={(v) => set({ test_kind: v })} />
      <div className="grid grid-cols-2 gap-3">
        <TestFields read={read} onChange={take} />
        <NumberField label="Test pressure wanted" dim="gauge" per={1000} optional min={1} max={10000} value={prove.test_wanted_kpa} onChange={(v) => set({ test_wanted_kpa: v })} />
        <NumberField label="Smallest step of the gauge" dim="gauge" per={1000} min={0.1} max={500} value={prove.test_step_kpa} onChange={(v) => v !== null && set({ test_step_kpa: v })} />
      </div>
      <Judged verdict={t.verdict} words={t.words} />
      {t.drop_pa && t.smallest_pa_m3_s !== null && t.smallest_pa_m3_s !== undefined && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          <dt className="text-soft">Were nothing lost, it would end at</dt>
          <dd className="figure">{u.say("gauge", (t.expected_pa ?? 0) - ATMOSPHERE_PA)}</dd>
          <dt className="text-soft">Missing</dt>
          <dd className="figure">
            {u.figure("gauge", t.drop_pa.value)} {STEPS[u.of("gauge").key]} ({u.figure("gauge", t.drop_pa.low)} to {u.figure("gauge", t.drop_pa.high)})
          </dd>
          <dt className="text-soft">Smallest leak it could have shown</dt>
          <dd className="figure">{u.scientific(t.smallest_pa_m3_s)} Pa·m³/s of nitrogen</dd>
        </dl>
      )}
      <Button disabled={prove.test_start_kpa === null || prove.test_start_kpa === undefined} onClick={again}>
        Keep this test and do another
      </Button>
      {proof.earlier_tests.length > 0 && (
        <ol aria-label="Earlier tests" className="list-none p-0">
          {proof.earlier_tests.map((e, i) => (
            <li key={i} className="border-t-2 border-rule py-2">
              <b>{TEST_KINDS.find((k) => k.value === e.kind)?.label}</b> <span className="figure text-soft">{e.at ? stamp(e.at) : ""}</span>{" "}
              <span className="figure">
                {e.start_pa !== null && u.say("gauge", e.start_pa)} {e.end_pa !== null && `→ ${u.say("gauge", e.end_pa)}`}
              </span>
              <br />
              {e.words}
            </li>
          ))}
        </ol>
      )}
      <p className="border-l-4 border-ochre pl-3">Nitrogen from a regulated bottle with relief, never air or oxygen. The maker&apos;s test pressure and the local code go before any figure here.</p>
    </>
  );
}

/** The pump's oil: how it looks, how much, and when it is due by the firm's own rule. */
export function OilForm({ proof, prove, set, job, editor }: GateProps) {
  const u = useUnits();
  const oil = proof.oil;
  const pump = pumpOf(job);
  const look = (v: OilLook) => editor.edit((j) => withOil(j, v));
  return (
    <>
      <div role="radiogroup" aria-label="As it looks in the glass" className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {oil.looks.map((l) => {
          const on = prove.oil === l.value;
          return (
            <button key={l.value} type="button" role="radio" aria-checked={on} onClick={() => look(l.value as OilLook)} className={`grid justify-items-center gap-1 rounded-[5px] border-2 p-2 ${on ? "border-ink bg-green-wash" : "border-strong"}`}>
              <OilGlass look={l.value} />
              <span className="font-bold">{l.label}</span>
            </button>
          );
        })}
      </div>
      <Segments label="Level in the glass, running" value={prove.oil_level ?? "unknown"} options={oil.levels} onChange={(v) => set({ oil_level: v })} />
      <Judged verdict={oil.verdict} words={oil.words} />
      <p className="text-soft">{oil.hours === null || oil.hours === undefined ? "No change of oil is on file for this pump." : `Since its last change: ${u.fixed(oil.hours, 1)} h, ${oil.jobs ?? 0} job${oil.jobs === 1 ? "" : "s"}.`}</p>
      <div className="flex flex-wrap gap-x-6">
        <Tick label="Changed now" on={prove.oil_changed ?? false} onChange={(v) => editor.edit((j) => ({ ...(pump && v ? withPart(j, pump.id, { oil: "fresh" }) : j), prove: { ...j.prove!, oil_changed: v } }))} />
        {prove.oil_changed && <Tick label="Used oil collected as waste" on={prove.oil_collected ?? false} onChange={(v) => set({ oil_collected: v })} />}
      </div>
      <OilRules />
    </>
  );
}

/** When oil is changed here: the firm's own rule, for every pump. */
function OilRules() {
  const settings = useSettings();
  const save = useSaveSettings();
  const s = settings.data?.settings;
  if (!s) return null;
  const rule = s.oil_rule ?? {};
  const put = (change: Partial<typeof rule>) => save.mutate({ ...s, oil_rule: { ...rule, ...change } });
  return (
    <details className="border-t-2 border-rule pt-2">
      <summary className="casual min-h-12 cursor-pointer py-2 text-lead font-bold">When oil is due here</summary>
      <Tick label="Fresh at each use" on={rule.each_use ?? false} onChange={(v) => put({ each_use: v })} />
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        <NumberField label="After" unit="h" optional min={0.1} max={10000} value={rule.after_hours} onChange={(v) => put({ after_hours: v })} />
        <NumberField label="After" unit="jobs" optional min={1} max={1000} value={rule.after_jobs} onChange={(v) => put({ after_jobs: v === null ? null : Math.round(v) })} />
        <NumberField label="Blank-off risen" unit="times" optional min={1.1} max={100} value={rule.blank_off_times} onChange={(v) => put({ blank_off_times: v })} />
      </div>
    </details>
  );
}

/** The gauge: battery, free air, and beside another one. */
export function GaugeForm({ proof, prove, set }: GateProps) {
  const g = prove.gauge ?? {};
  const put = (change: Partial<typeof g>) => set({ gauge: { ...g, ...change } });
  const micron = MICRON_PA;
  return (
    <>
      <Segments
        label="In free air it shows"
        value={g.in_air ?? ""}
        options={[
          { value: "over", label: "over range" },
          { value: "figure", label: "a figure" },
        ]}
        onChange={(v) => put({ in_air: v })}
      />
      <div className="grid grid-cols-2 gap-3">
        {g.in_air === "figure" && <NumberField label="That figure" dim="pressure" per={micron} optional min={0} max={1000000} value={g.air_micron} onChange={(v) => put({ air_micron: v })} />}
        <NumberField label="Battery" unit="%" optional min={0} max={100} value={g.battery_pct} onChange={(v) => put({ battery_pct: v })} />
      </div>
      <h3 className="text-lead font-bold">Two gauges at one place</h3>
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="This one" dim="pressure" per={micron} optional min={0} max={800000} value={g.this_micron} onChange={(v) => put({ this_micron: v })} />
        <NumberField label="The other" dim="pressure" per={micron} optional min={0} max={800000} value={g.other_micron} onChange={(v) => put({ other_micron: v })} />
      </div>
      <TextField label="Which other" value={g.other ?? ""} onChange={(v) => put({ other: v })} />
      <Tick label="Cleaned with alcohol and dried" on={g.cleaned ?? false} onChange={(v) => put({ cleaned: v })} />
      {proof.gauge.words.map((w, i) => (
        <Judged key={w} verdict={i === 0 ? proof.gauge.verdict : "open"} words={w} />
      ))}
    </>
  );
}
