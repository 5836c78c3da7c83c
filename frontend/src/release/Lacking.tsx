import type { Job, StepOut } from "../api/client";
import type { Editor } from "../api/editor";
import { useCatalogue } from "../api/queries";
import { StepBody } from "../rig/Orders";
import { Button } from "../ui/Button";
import { Sheet } from "../ui/Sheet";

type Spare = NonNullable<NonNullable<Job["rig"]>["spares"]>[number];

/** What the rig lacks for its release, and charging hoses of the van that would do. */
export function Lacking({ steps, missing, job, editor }: { steps: StepOut[]; missing: string[]; job: Job; editor: Editor }) {
  const { data } = useCatalogue();
  const taken = [...(job.rig?.parts ?? []), ...(job.rig?.spares ?? [])];
  const hoses = (data?.kit ?? []).filter((k) => k.kind === "hose" && k.values.made_for === "pressure" && !taken.some((p) => p.kit === k.id));
  const bring = (values: object) =>
    editor.edit((j) => {
      const spares = j.rig?.spares ?? [];
      const taken = new Set([...(j.rig?.parts ?? []), ...spares].map((p) => p.id));
      const id = ["charging-hose", "charging-hose-2", "charging-hose-3"].find((x) => !taken.has(x)) ?? `charging-hose-${spares.length + 1}`;
      return { ...j, rig: { ...j.rig, spares: [...spares, { kind: "hose", id, ...values } as Spare] } };
    });
  return (
    <Sheet title="Missing for this release" strong>
      <ul className="list-none p-0">
        {steps.map((s) => (
          <li key={s.value} className="border-t border-rule py-2 first:border-0">
            <StepBody step={s} />
          </li>
        ))}
      </ul>
      {missing.includes("charging-hose") && (
        <div className="mt-2 flex flex-wrap gap-3">
          {hoses.slice(0, 3).map((k) => (
            <Button key={k.id} onClick={() => bring({ ...k.values, kit: k.id, name: k.name })}>
              Bring {k.name}
            </Button>
          ))}
          {hoses.length === 0 && (
            <Button onClick={() => bring({ size: "1/4 in", length_m: 1.5, made_for: "pressure", name: "charging hose" })}>Bring a charging hose</Button>
          )}
        </div>
      )}
    </Sheet>
  );
}
