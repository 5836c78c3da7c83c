import { Check, Printer } from "lucide-react";

import type { Job } from "../api/client";
import type { Editor } from "../api/editor";
import { useCarry } from "../api/queries";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Fault } from "../ui/Sheet";

/** What to carry for this system and rig, ticked off at the van; prints alone on a page. */
export function Carry({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const { data, error } = useCarry(jobKey, editor.version);
  const u = useUnits();
  if (error) return <Fault title="The list cannot be made" detail={error.message} />;
  if (!data) return <p className="text-soft">Writing the list…</p>;
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
          <b className="casual text-[19px]">{[job.party?.customer, job.party?.unit].filter(Boolean).join(", ") || "This job"}</b>{" "}
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
            <h3 className="mb-1 text-[17px]">{g}</h3>
            <ul className="list-none p-0">
              {data.items
                .filter((i) => i.group === g)
                .map((i) => {
                  const on = packed.includes(i.key);
                  return (
                    <li key={i.key}>
                      <button
                        type="button"
                        role="checkbox"
                        aria-checked={on}
                        onClick={() => tick(i.key)}
                        className="flex min-h-12 w-full items-center gap-3 border-t border-rule text-left"
                      >
                        <span className={`grid size-7 flex-none place-items-center rounded-[4px] border-2 ${on ? "border-green bg-green-wash text-green" : "border-strong"}`}>
                          {on && <Check size={18} strokeWidth={3} aria-hidden />}
                        </span>
                        <span className={on ? "text-soft" : ""}>
                          {i.count > 1 && <b className="figure">{i.count} × </b>}
                          {u.words(i.name)}
                          {i.why && <span className="text-soft"> {i.why}</span>}
                        </span>
                      </button>
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
