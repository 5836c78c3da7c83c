import { useChecks, useSystem, useTouch, useVerdict } from "../api/queries";
import { StepBody } from "../rig/Orders";
import { ChargeCard } from "../release/ChargeCard";
import { Ports } from "../release/Ports";
import { ReleaseRig } from "../release/ReleaseRig";
import { RunningCard } from "../release/RunningCard";
import { Segments } from "../ui/Choice";
import { Cautions, Sheet, Tag } from "../ui/Sheet";
import type { StageProps } from "./types";

type ReleaseDoc = NonNullable<StageProps["job"]["release"]>;

/** Breaking the vacuum: the order for this rig, and what was weighed in. */
export function Release({ jobKey, job, editor, live }: StageProps) {
  const checks = useChecks(jobKey, editor.version);
  const system = useSystem(jobKey, editor.version);
  const verdict = useVerdict(jobKey, false);
  const release = job.release!;
  const done = release.steps_done ?? [];
  const set = (change: Partial<ReleaseDoc>) => editor.edit((j) => ({ ...j, release: { ...j.release!, ...change } }), "typing");
  const touch = useTouch(jobKey);
  /** A step that turns or moves something is a touch of the run too, so that the interlock knows where things stand. */
  const tick = (value: string, ticked: boolean) => {
    set({ steps_done: ticked ? done.filter((d) => d !== value) : [...done, value] });
    if (!ticked && /^(open|shut|take-off|core-in):/.test(value)) touch.mutate({ kind: value });
  };
  const steps = checks.data?.steps ?? [];
  const next = steps.findIndex((s) => !done.includes(s.value));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 md:grid-cols-[minmax(0,1fr)_340px]">
      {verdict.isSuccess && verdict.data?.verdict !== "tight-and-dry" && (
        <section role="alert" className="sheet border-[3px] border-stop p-4 md:col-span-2">
          <Tag tone="stop">stop</Tag>
          <p className="casual mt-2 text-order leading-tight font-extrabold">
            {verdict.data ? verdict.data.headline : "No hold test was read"}
          </p>
          <p className="mt-1">
            Refrigerant let in now covers the fault up, and leaves the same way. Charge anyway only with a reason: it is recorded as a deviation.
          </p>
        </section>
      )}
      <div className="min-w-0 md:col-span-2">
        <ReleaseRig jobKey={jobKey} version={editor.version} live={live} />
      </div>
      <div className="grid min-w-0 gap-4">
      <Sheet title="Steps, in this order">
        <ol className="list-none p-0">
          {steps.map((s, i) => {
            const ticked = done.includes(s.value);
            const here = i === next;
            return (
              <li key={s.value} className={`flex items-start gap-3 border-t-2 border-rule py-3 first:border-0 `}>
                <button
                  type="button"
                  role="checkbox"
                  aria-checked={ticked}
                  aria-label={s.label}
                  disabled={!ticked && !here}
                  onClick={() => tick(s.value, ticked)}
                  className={`figure grid size-12 flex-none place-items-center rounded-full border-[3px] text-order font-bold ${
                    ticked ? "border-green bg-green-wash text-green" : here ? "border-ink" : "border-strong text-soft"
                  }`}
                >
                  {ticked ? "✓" : i + 1}
                </button>
                <StepBody step={s} large={here} />
              </li>
            );
          })}
        </ol>
      </Sheet>
      <Ports job={job} editor={editor} />
      <RunningCard jobKey={jobKey} job={job} editor={editor} />
      </div>
      <div className="grid gap-4">
        <Sheet title="The vacuum is broken">
          <Segments
            label="with"
            value={release.way ?? "unit-charge"}
            options={[
              { value: "unit-charge", label: "the unit's charge" },
              { value: "cylinder", label: "a cylinder" },
            ]}
            onChange={(v) => set({ way: v, steps_done: [] })}
          />
        </Sheet>
        <ChargeCard jobKey={jobKey} job={job} editor={editor} />
        <Cautions words={(system.data?.cautions ?? []).map((c) => c.words)} />
      </div>
    </div>
  );
}
