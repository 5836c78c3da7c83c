import { useChecks, useSystem, useVerdict } from "../api/queries";
import { useUnits } from "../lib/units";
import { StepBody } from "../rig/Orders";
import { NumberField, Segments } from "../ui/Field";
import { Cautions, Sheet, Tag } from "../ui/Sheet";
import type { StageProps } from "./types";

type ReleaseDoc = NonNullable<StageProps["job"]["release"]>;

/** Breaking the vacuum: the order for this rig, and what was weighed in. */
export function Release({ jobKey, job, editor }: StageProps) {
  const checks = useChecks(jobKey, editor.version);
  const system = useSystem(jobKey, editor.version);
  const verdict = useVerdict(jobKey, false);
  const release = job.release!;
  const u = useUnits();
  const done = release.steps_done ?? [];
  const set = (change: Partial<ReleaseDoc>) => editor.edit((j) => ({ ...j, release: { ...j.release!, ...change } }), "typing");
  const steps = checks.data?.steps ?? [];
  const next = steps.findIndex((s) => !done.includes(s.value));
  return (
    <div className="grid items-start gap-4 md:grid-cols-[1fr_340px]">
      {verdict.isSuccess && verdict.data?.verdict !== "tight-and-dry" && (
        <section role="alert" className="sheet border-[3px] border-stop p-4 md:col-span-2">
          <Tag tone="stop">stop</Tag>
          <p className="casual mt-2 text-[23px] leading-tight font-extrabold">
            {verdict.data ? `The hold says: ${verdict.data.sentence.charAt(0).toLowerCase()}${verdict.data.sentence.slice(1)}` : "No hold has been read"}
          </p>
          <p className="mt-1">
            Refrigerant let in now covers the fault up, and leaves by the same way. Release only against a reason that goes on the record.
          </p>
        </section>
      )}
      <Sheet title="In this order">
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
                  onClick={() => set({ steps_done: ticked ? done.filter((d) => d !== s.value) : [...done, s.value] })}
                  className={`figure grid size-12 flex-none place-items-center rounded-full border-[3px] text-[20px] font-bold ${
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
      <div className="grid gap-4">
        <Sheet title="The vacuum is broken">
          <Segments
            label="with"
            value={release.way ?? "unit-charge"}
            options={[
              { value: "unit-charge", label: "the unit's charge" },
              { value: "cylinder", label: "a cylinder" },
            ]}
            onChange={(v) => set({ way: v as "cylinder", steps_done: [] })}
          />
        </Sheet>
        <Sheet title="Charge">
          {system.data?.charge ? (
            <p className="mb-3">
              To weigh in <span className="figure text-[28px] font-bold">{u.say("mass", system.data.charge.kg)}</span>
              <br />
              <span className="text-soft">{u.words(system.data.charge.words)}</span>
            </p>
          ) : (
            <p className="mb-3 text-soft">Give the nameplate charge under Scope to have the weight worked out.</p>
          )}
          <NumberField label="Weighed in" dim="mass" optional min={0} max={2000} value={release.weighed_kg} onChange={(v) => set({ weighed_kg: v })} />
        </Sheet>
        <Cautions words={system.data?.cautions ?? []} />
      </div>
    </div>
  );
}
