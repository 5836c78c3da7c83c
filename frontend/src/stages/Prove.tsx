import { useState } from "react";

import { useChecks } from "../api/queries";
import { pumpOf, withPart } from "../rig/parts";
import { Button } from "../ui/Button";
import { NumberField, Segments } from "../ui/Field";
import { Sheet, Tag } from "../ui/Sheet";
import type { StageProps } from "./types";

type ProveDoc = NonNullable<StageProps["job"]["prove"]>;
type GateDoc = NonNullable<ProveDoc["gates"]>[string];

/** Checks before the pump runs: done with evidence, or skipped with a reason. */
export function Prove({ jobKey, job, editor }: StageProps) {
  const { data } = useChecks(jobKey, editor.version);
  const prove = job.prove!;
  const pump = pumpOf(job);
  const set = (change: Partial<ProveDoc>) => editor.edit((j) => ({ ...j, prove: { ...j.prove!, ...change } }), "typing");
  const gate = (key: string, value: GateDoc) => set({ gates: { ...prove.gates, [key]: value } });
  return (
    <div className="grid items-start gap-4 md:grid-cols-[1fr_360px]">
      <Sheet title="Before the pump runs">
        <ul className="list-none p-0">
          {(data?.gates ?? []).map((g) => (
            <GateRow key={g.value} title={g.label} why={g.note ?? ""} value={prove.gates?.[g.value] ?? { state: "open", note: "" }} onChange={(v) => gate(g.value, v)} />
          ))}
        </ul>
      </Sheet>
      <div className="grid gap-4">
        <Sheet title="Blank-off">
          <p className="mb-2">Gauge on the pump by a short brass coupling. Judge it running: stopped, every vane pump leaks back.</p>
          <NumberField
            label="Lowest reading, running"
            dim="pressure"
            per={101325 / 760000}
            optional
            min={1}
            max={20000}
            value={pump?.blank_off_micron}
            onChange={(v) => pump && editor.edit((j) => withPart(j, pump.id, { blank_off_micron: v }), "typing")}
          />
          <BlankOff value={pump?.blank_off_micron ?? null} />
        </Sheet>
        <Sheet title="Pump oil">
          <Segments
            label="As seen in the glass"
            value={prove.oil ?? "unknown"}
            options={[
              { value: "fresh", label: "Clear" },
              { value: "dark", label: "Dark" },
              { value: "milky", label: "Milky" },
            ]}
            onChange={(v) => {
              const pumpOil = v === "fresh" ? "fresh" : v === "milky" ? "wet" : "used";
              editor.edit((j) => ({ ...(pump ? withPart(j, pump.id, { oil: pumpOil }) : j), prove: { ...j.prove!, oil: v as "fresh" } }));
            }}
          />
          {prove.oil === "milky" && <p className="mt-2 border-l-4 border-ochre pl-3">Water in the oil: it stalls the pump. Drain warm, refill, run with the intake shut.</p>}
          {prove.oil === "dark" && <p className="mt-2 border-l-4 border-ochre pl-3">Change it now; used oil is disposed of properly.</p>}
        </Sheet>
        <Sheet title="Pressure test">
          <div className="grid grid-cols-2 gap-3">
            <NumberField label="Start" unit="kPa" optional min={0} max={10000} value={prove.test_start_kpa} onChange={(v) => set({ test_start_kpa: v })} />
            <NumberField label="at" dim="temperature" optional min={-40} max={80} value={prove.test_start_c} onChange={(v) => set({ test_start_c: v })} />
            <NumberField label="End" unit="kPa" optional min={0} max={10000} value={prove.test_end_kpa} onChange={(v) => set({ test_end_kpa: v })} />
            <NumberField label="at" dim="temperature" optional min={-40} max={80} value={prove.test_end_c} onChange={(v) => set({ test_end_c: v })} />
            <NumberField label="Minutes" unit="min" optional min={0} max={10000} value={prove.test_minutes} onChange={(v) => set({ test_minutes: v })} />
          </div>
          <p className="mt-2 text-soft">Nitrogen from a regulated bottle with relief. Never air or oxygen.</p>
        </Sheet>
      </div>
    </div>
  );
}

function BlankOff({ value }: { value: number | null }) {
  if (value === null) return <p className="mt-2 text-soft">Not read: the plan takes a generic pump of this size.</p>;
  if (value <= 50) return <p className="mt-2"><Tag tone="pass">good</Tag> The plan now uses it.</p>;
  if (value <= 100) return <p className="mt-2"><Tag tone="plain">usable</Tag> Change the oil and read again.</p>;
  return <p className="mt-2"><Tag tone="stop">too high</Tag> Over 100 µ alone it will not pull a system deep. Change the oil, check the coupling.</p>;
}

function GateRow({ title, why, value, onChange }: { title: string; why: string; value: GateDoc; onChange: (v: GateDoc) => void }) {
  const [skipping, setSkipping] = useState(false);
  const [reason, setReason] = useState("");
  const done = value.state === "done";
  const skipped = value.state === "skipped";
  return (
    <li className="border-t-2 border-rule py-3 first:border-0 first:pt-0">
      <div className="flex items-center gap-3">
        <button
          type="button"
          role="checkbox"
          aria-checked={done}
          aria-label={title}
          onClick={() => onChange(done ? { state: "open", note: value.note } : { state: "done", note: skipped ? "" : value.note })}
          className={`grid size-12 flex-none place-items-center rounded-[5px] border-[3px] text-[24px] font-bold ${done ? "border-green bg-green-wash text-green" : "border-strong"}`}
        >
          {done ? "✓" : skipped ? <span className="text-ochre">–</span> : ""}
        </button>
        <div className="min-w-0 flex-1">
          <div className="font-bold">{title}</div>
          <div className="text-soft">{skipped ? `Skipped: ${value.note}` : value.note && done ? value.note : why}</div>
        </div>
        {!done && !skipped && (
          <Button kind="quiet" onClick={() => setSkipping(true)}>
            Skip
          </Button>
        )}
      </div>
      {skipping && (
        <form
          className="mt-2 flex gap-2 pl-15"
          onSubmit={(e) => {
            e.preventDefault();
            if (!reason.trim()) return;
            onChange({ state: "skipped", note: reason.trim() });
            setSkipping(false);
          }}
        >
          <input
            autoFocus
            aria-label={`Reason for skipping: ${title}`}
            placeholder="Why it is skipped; it goes on the record"
            className="min-h-12 min-w-0 flex-1 rounded-[5px] border-2 border-ink bg-sheet px-3"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button type="submit" className="casual min-h-12 rounded-[5px] bg-ink px-4 font-bold text-on-ink">
            Skip it
          </button>
        </form>
      )}
    </li>
  );
}
