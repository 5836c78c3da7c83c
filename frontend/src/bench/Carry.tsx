import { Printer } from "lucide-react";

import type { Job } from "../api/client";
import type { Editor } from "../api/editor";
import { useCarry } from "../api/queries";
import { Tick } from "../ui/Tick";
import { Button } from "../ui/Button";
import { Fault } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** What to carry for this system and rig, ticked off at the van; prints alone on a page. */
export function Carry({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const { data, error } = useCarry(jobKey, editor.version);
  if (error) return <Fault title="The list cannot be made" detail={error.message} />;
  if (!data) return <Waits>Writing the list…</Waits>;
  const packed = job.plans?.packed ?? [];
  const tick = (key: string) =>
    editor.edit((j) => {
      const now = j.plans?.packed ?? [];
      return { ...j, plans: { ...j.plans, packed: now.includes(key) ? now.filter((k) => k !== key) : [...now, key] } };
    });
  const groups = [...new Set(data.items.map((i) => i.group))];
  const done = data.items.filter((i) => packed.includes(i.key)).length;
  return (
    <div className="printable">
      <div className="mb-3 flex items-center gap-3">
        <p className="mr-auto">
          <b className="casual text-lead">{[job.party?.customer, job.party?.unit].filter(Boolean).join(", ") || "This job"}</b>{" "}
          <span className="text-soft">
            {done} of {data.items.length} packed
          </span>
        </p>
        <Button className="no-print flex items-center gap-2" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </Button>
      </div>
      <div className="gap-x-8 sm:columns-2 lg:columns-3">
        {groups.map((g) => (
          <section key={g} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 text-lead">{g}</h3>
            <ul className="list-none p-0">
              {data.items
                .filter((i) => i.group === g)
                .map((i) => {
                  const on = packed.includes(i.key);
                  return (
                    <li key={i.key}>
                      <Tick
                        on={on}
                        onChange={() => tick(i.key)}
                        label={
                        <span className={on ? "text-soft" : ""}>
                          {i.count > 1 && <b className="figure">{i.count} × </b>}
                          {i.name}
                          {i.why && <span className="text-soft"> {i.why}</span>}
                        </span>
                        }
                      />
                    </li>
                  );
                })}
            </ul>
          </section>
        ))}
      </div>
    </div>
  );
}
