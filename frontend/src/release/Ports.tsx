import type { Job } from "../api/client";
import type { Editor } from "../api/editor";
import { Segments } from "../ui/Choice";
import { NumberField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

type Check = "bubble" | "electronic" | "both";

/** Every port looked at before its cap goes on; new cores counted. */
export function Ports({ job, editor }: { job: Job; editor: Editor }) {
  const release = job.release!;
  const checks = release.port_checks ?? {};
  const ports = job.scope?.ports ?? [];
  const set = (id: string, v: Check | "none") =>
    editor.edit((j) => {
      const next = { ...(j.release!.port_checks ?? {}) };
      if (v === "none") delete next[id];
      else next[id] = v;
      return { ...j, release: { ...j.release!, port_checks: next } };
    });
  return (
    <Sheet title="Ports, before their caps go on">
      <div className="grid gap-3">
        {ports.map((p) => (
          <Segments
            key={p.id}
            label={p.name || `${p.id.replaceAll("-", " ")} port`}
            value={checks[p.id] ?? "none"}
            options={[
              { value: "none", label: "not yet" },
              { value: "bubble", label: "bubbles" },
              { value: "electronic", label: "electronic" },
              { value: "both", label: "both" },
            ]}
            onChange={(v) => set(p.id, v)}
          />
        ))}
        <NumberField label="New cores put in" min={0} max={40} value={release.cores_new ?? 0} onChange={(v) => v !== null && editor.edit((j) => ({ ...j, release: { ...j.release!, cores_new: Math.round(v) } }), "typing")} />
      </div>
    </Sheet>
  );
}
