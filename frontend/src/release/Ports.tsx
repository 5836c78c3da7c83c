import type { Job } from "../api/client";
import type { Editor } from "../api/editor";
import { Photos } from "../record/Photos";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

type Check = "bubble" | "electronic" | "both";

/** Every port looked at before its cap goes on; new cores counted. */
export function Ports({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const release = job.release!;
  const checks = release.port_checks ?? {};
  const ports = job.scope?.ports ?? [];
  const set = (id: string, v: Check | "none") =>
    editor.edit((j) => {
      const next = { ...(j.release!.port_checks ?? {}) };
      if (v === "none") delete next[id];
      else next[id] = v;
      const results = { ...(j.release!.port_results ?? {}) };
      if (v === "none") delete results[id];
      else results[id] ??= { minutes: 1, tight: true };
      return { ...j, release: { ...j.release!, port_checks: next, port_results: results } };
    });
  const result = (id: string) => release.port_results?.[id] ?? { minutes: 1, tight: true };
  const keep = (id: string, change: { minutes?: number; tight?: boolean }) =>
    editor.edit((j) => ({ ...j, release: { ...j.release!, port_results: { ...j.release!.port_results, [id]: { ...result(id), ...change } } } }), "typing");
  return (
    <Sheet title="Ports, before their caps go on" fold="release-ports">
      <div className="grid gap-3">
        {ports.map((p) => (
          <div key={p.id} className="grid gap-2">
            <Segments
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
            {checks[p.id] && (
              <div className="flex flex-wrap items-end gap-3">
                <div className="w-32">
                  <NumberField label="Watched for" unit="min" min={0} max={600} value={result(p.id).minutes} onChange={(v) => v !== null && keep(p.id, { minutes: v })} />
                </div>
                <Segments
                  label="It is"
                  value={result(p.id).tight ? "tight" : "leaks"}
                  options={[
                    { value: "tight", label: "tight" },
                    { value: "leaks", label: "leaking" },
                  ]}
                  onChange={(v) => keep(p.id, { tight: v === "tight" })}
                />
                <Photos jobKey={jobKey} about={`port:${p.id}`} of={`the ${p.name || `${p.id.replaceAll("-", " ")} port`}`} small />
              </div>
            )}
          </div>
        ))}
        <NumberField label="New cores put in" min={0} max={40} value={release.cores_new ?? 0} onChange={(v) => v !== null && editor.edit((j) => ({ ...j, release: { ...j.release!, cores_new: Math.round(v) } }), "typing")} />
      </div>
    </Sheet>
  );
}
