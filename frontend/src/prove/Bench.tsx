import type { BenchOut, ProofStageOut, StageReading } from "../api/client";
import { useBench, useBenchTouch } from "../api/queries";
import { MICRON_PA, range } from "../lib/format";
import { PACES } from "../lib/paces";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/Field";
import { Fault, Tag } from "../ui/Sheet";
import { BenchChart } from "./BenchChart";
import { readingOf, withStage } from "./evidence";
import { Judged } from "./forms";
import type { GateProps } from "./types";
import { Word } from "../ui/Word";
import { Waits } from "../ui/Waits";

const NEXT: Record<string, string> = {
  "pump-on": "Start the pump",
  "valve-shut": "Close the pump's valve",
  "valve-open": "Open the pump's valve",
};

/** The rig proved stage by stage: the pump alone, then one hose at a time, live or typed. */
export function Bench({ proof, prove, editor, jobKey }: GateProps) {
  const bench = useBench(jobKey);
  const touch = useBenchTouch(jobKey);
  const b = bench.data;
  const stages = proof.stages;
  if (proof.fault) return <Fault title="This rig cannot be proved" detail={proof.fault} />;
  if (!b) return <Waits>Setting up the bench…</Waits>;
  const index = Math.max(0, stages.findIndex((s) => s.key === b.stage));
  const stage = stages[index];
  if (!stage) return null;
  const keep = (key: string, read: StageReading) => editor.edit((j) => withStage(j, stages, key, read));
  const then = stages[index + 1];
  const act = () => {
    if (b.next === "keep" && b.reading) {
      keep(stage.key, b.reading);
      if (then) touch.mutate({ kind: `stage:${then.key}` });
    } else if (b.next) touch.mutate({ kind: b.next });
  };
  return (
    <>
      <Rail stages={stages} now={stage.key} onPick={(key) => touch.mutate({ kind: `stage:${key}` })} />
      <div>
        <h3 className="casual text-order font-extrabold">{stage.title}</h3>
        <p>{stage.do}</p>
      </div>
      <Pace b={b} onSpeed={(speed) => touch.mutate({ speed })} onOff={() => touch.mutate(null)} />
      {touch.error && <Fault title="The bench did not take it" detail={touch.error.message} />}
      {b.attached && (
        <>
          <div className="flex items-end gap-4">
            <Figure b={b} />
            <p role="status" className={`flex-1 border-l-[5px] pl-3 ${b.tone === "stop" ? "border-stop" : b.tone === "caution" ? "border-ochre" : b.tone === "pass" ? "border-green" : "border-rule"}`}>
              {b.words}
            </p>
          </div>
          <BenchChart bench={b} />
          <div className="flex flex-wrap gap-3">
            {b.next && (
              <Button kind="solid" disabled={touch.isPending} onClick={act}>
                {b.next === "keep" ? (then ? `Save it, then: ${then.title}` : "Save it") : (NEXT[b.next] ?? b.next)}
              </Button>
            )}
            {b.pump_on && b.next !== "pump-on" && <Button onClick={() => touch.mutate({ kind: "pump-off" })}>Stop the pump</Button>}
            {!b.valve_open && <Button onClick={() => touch.mutate({ kind: "valve-open" })}>Open the valve again</Button>}
            {b.reading && b.next !== "keep" && <Button onClick={() => keep(stage.key, b.reading!)}>Save what is read so far</Button>}
          </div>
        </>
      )}
      <Typed stage={stage} reading={readingOf(prove, stage.key)} shown={!b.attached} onChange={(r) => keep(stage.key, r)} />
      <Results stages={stages} />
      {proof.blank_off.before_micron.length > 0 && stage.key === "pump" && (
        <p className="text-soft">
          This pump&apos;s own readings so far: <Past values={proof.blank_off.before_micron} />
        </p>
      )}
    </>
  );
}

function Past({ values }: { values: number[] }) {
  const u = useUnits();
  return <span className="figure">{values.map((v) => u.say("pressure", v * MICRON_PA)).join(", ")}</span>;
}

function Figure({ b }: { b: BenchOut }) {
  const u = useUnits();
  return (
    <p className="figure text-display leading-none font-bold whitespace-nowrap text-measure" data-testid="bench-figure">
      {b.over_range ? (
        "over"
      ) : b.pa === null || b.pa === undefined ? (
        "—"
      ) : (
        <>
          {u.figure("pressure", b.pa)}
          <span className="text-lead text-ink"> {u.label("pressure")}</span>
        </>
      )}
    </p>
  );
}

function Rail({ stages, now, onPick }: { stages: ProofStageOut[]; now: string; onPick: (key: string) => void }) {
  return (
    <ol className="flex list-none flex-wrap gap-2 p-0" aria-label="Stages of the proof">
      {stages.map((s, i) => (
        <li key={s.key}>
          <button
            type="button"
            aria-current={s.key === now ? "step" : undefined}
            onClick={() => onPick(s.key)}
            className={`min-h-12 rounded-[5px] border-2 px-3 text-left ${s.key === now ? "border-ink bg-ink font-bold text-on-ink" : "border-strong"}`}
          >
            <span className="figure">{i}</span> {s.short} <Sign verdict={s.verdict} />
          </button>
        </li>
      ))}
    </ol>
  );
}

const SIGNS: Record<string, [string, string]> = { good: ["✓", "good"], usable: ["?", "usable"], doubtful: ["?", "doubtful"], bad: ["✕", "bad"] };

function Sign({ verdict }: { verdict: string }) {
  const s = SIGNS[verdict];
  return s ? (
    <span role="img" aria-label={s[1]} className="font-bold">
      {s[0]}
    </span>
  ) : null;
}

function Pace({ b, onSpeed, onOff }: { b: BenchOut; onSpeed: (speed: number) => void; onOff: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">{b.attached ? "simulated gauge, time" : "No gauge is connected. With the simulated one, time"}</span>
      {PACES.map((s) => (
        <Button key={s} kind={b.attached && b.speed === s ? "solid" : "line"} onClick={() => onSpeed(s)}>
          ×{s}
        </Button>
      ))}
      {b.attached && (
        <Button kind="quiet" onClick={onOff}>
          Remove it
        </Button>
      )}
      {b.stale && <Tag tone="caution">stale: nothing heard</Tag>}
    </div>
  );
}

/** The readings of a stage by hand: for a gauge that speaks to nobody. */
function Typed({ stage, reading, shown, onChange }: { stage: ProofStageOut; reading: StageReading; shown: boolean; onChange: (r: StageReading) => void }) {
  const put = (change: Partial<StageReading>) => onChange({ ...reading, ...change });
  const pressure = (label: string, key: "settled_micron" | "from_micron" | "to_micron") => (
    <NumberField label={label} dim="pressure" per={MICRON_PA} optional min={0} max={800000} value={reading[key]} onChange={(v) => put({ [key]: v })} />
  );
  return (
    <details className="border-t-2 border-rule pt-1" open={shown}>
      <summary className="casual min-h-12 cursor-pointer py-2 text-lead font-bold">The readings of this stage</summary>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {pressure("Lowest reading, running", "settled_micron")}
        <NumberField label="after" unit="s" optional min={0} max={86400} value={reading.after_s} onChange={(v) => put({ after_s: v })} />
        {stage.shuts && stage.key !== "pump" && (
          <>
            {pressure("Valve closed, from", "from_micron")}
            {pressure("to", "to_micron")}
            <NumberField label="in" unit="s" optional min={0.1} max={86400} value={reading.rise_s} onChange={(v) => put({ rise_s: v })} />
            <NumberField label="Known volume joined" dim="volume" per={1e-3} optional min={0} max={500} value={reading.added_l} onChange={(v) => put({ added_l: v ?? 0 })} />
          </>
        )}
      </div>
      {stage.key === "pump" && <p className="mt-2 text-soft"><Word of="blank-off">Blank-off</Word> is judged with the pump running only: stopped, every vane pump leaks back.</p>}
    </details>
  );
}

/** What every stage was found to be, and what it would add to the hold. */
function Results({ stages }: { stages: ProofStageOut[] }) {
  const u = useUnits();
  const read = stages.filter((s) => s.verdict !== "open");
  if (read.length === 0) return null;
  return (
    <ul className="list-none border-t-2 border-rule p-0 pt-2" aria-label="Results">
      {read.map((s) => (
        <li key={s.key} className="mb-2">
          <b>{s.title}</b>
          <Judged verdict={s.verdict} words={s.words.join(" ")} />
          {s.own_pa_m3_s && (
            <p className="text-soft">
              {s.hold_micron_s !== null && s.hold_micron_s !== undefined
                ? `It stays in what is held: ${u.rate(s.hold_micron_s, false)} of the rise will be its. `
                : "It is outside of what is held: it slows the draw, and adds nothing to the hold test. "}
              <span className="figure">{range(s.own_pa_m3_s, u.scientific)}</span> Pa·m³/s; normal for such a part:{" "}
              <span className="figure">{range(s.usual_pa_m3_s, u.scientific)}</span>, best guess {u.scientific(s.usual_pa_m3_s.value)}.
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
