import type { Job, PlanOut } from "../api/client";
import type { Editor } from "../api/editor";
import { useCatalogue } from "../api/queries";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { NumberField } from "../ui/Field";
import { Tag } from "../ui/Sheet";

const TONE = { good: "pass", usable: "caution", no: "stop" } as const;

/** The extension cord: what it drops, running and starting. */
export function CordSheet({ job, editor, plan }: { job: Job; editor: Editor; plan: PlanOut }) {
  const { data: cat } = useCatalogue();
  const u = useUnits();
  const cord = job.rig?.cord ?? null;
  const ask = (fields: Record<string, unknown>) => void editor.ask("rig", { op: "cord", fields });
  const set = (fields: Record<string, unknown>) => editor.edit((j) => ({ ...j, rig: { ...j.rig!, cord: { ...j.rig!.cord!, ...fields } } }), "typing");
  if (!cord)
    return (
      <div className="flex flex-wrap items-center gap-4">
        <p className="mr-auto">No cord is listed: the pump is taken to be at a proper outlet.</p>
        <Button onClick={() => ask({ length_m: 15, wire: "14 AWG", volts: 120 })}>Add a cord, 120 V</Button>
        <Button onClick={() => ask({ length_m: 25, wire: "1.5 mm²", volts: 230 })}>Add a cord, 230 V</Button>
      </div>
    );
  const answer = plan.cord;
  return (
    <div className="grid gap-4 md:grid-cols-[1fr_320px]">
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Length, one way" dim="length" min={0.5} max={300} value={cord.length_m} onChange={(v) => v !== null && set({ length_m: v })} />
        <SelectField label="Wire" value={cord.wire ?? ""} options={(cat?.wires ?? []).map((w) => ({ value: w, label: w }))} onChange={(v) => set({ wire: v })} />
        <NumberField label="Voltage" unit="V" min={90} max={480} value={cord.volts} onChange={(v) => v !== null && set({ volts: v })} />
        <Button className="self-end" onClick={() => ask({})}>
          No cord
        </Button>
      </div>
      {answer && (
        <div>
          <Tag tone={TONE[answer.verdict]}>{answer.verdict === "no" ? "too thin" : answer.verdict}</Tag>
          <p className="mt-1">{answer.words}.</p>
          <p className="mt-1 text-soft">
            <span className="figure">{u.fixed(answer.running_a, 1)} A</span> running, about <span className="figure">{u.whole(answer.starting_a)} A</span> starting (estimate);{" "}
            <span className="figure">{u.whole(answer.volts_starting)} V</span> left at the pump while it starts.
          </p>
        </div>
      )}
    </div>
  );
}
