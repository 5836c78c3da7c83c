import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { StepOut } from "../api/client";
import { options } from "../api/options";
import { useChecks, usePlan, useStep, useSystem, useTouch, useVerdict } from "../api/queries";
import { StepBody } from "../rig/Orders";
import { ChargeCard } from "../release/ChargeCard";
import { Lacking } from "../release/Lacking";
import { Ports } from "../release/Ports";
import { ReleaseRig } from "../release/ReleaseRig";
import { RunningCard } from "../release/RunningCard";
import { TouchDialog, type Asked } from "../rig/TouchDialog";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { Cautions, Sheet, Tag } from "../ui/Sheet";
import type { StageProps } from "./types";
import { Waits } from "../ui/Waits";

type ReleaseDoc = NonNullable<StageProps["job"]["release"]>;

/** Breaking the vacuum: the order for this rig, and what was weighed in. */
export function Release({ jobKey, job, editor, live }: StageProps) {
  const checks = useChecks(jobKey, editor.version);
  const system = useSystem(jobKey, editor.version);
  const plan = usePlan(jobKey, editor.version);
  const verdict = useVerdict(jobKey, false);
  const release = job.release!;
  const set = (change: Partial<ReleaseDoc>) => editor.edit((j) => ({ ...j, release: { ...j.release!, ...change } }), "typing");
  const touch = useTouch(jobKey);
  const log = useStep(jobKey);
  const client = useQueryClient();
  const [asked, setAsked] = useState<Asked>(null);
  const pending = useRef<Promise<unknown>>(Promise.resolve());
  const done = [...new Set([...(release.steps_done ?? []), ...(checks.data?.done ?? [])])];
  const keep = (value: string, ticked: boolean) => set({ steps_done: ticked ? done.filter((d) => d !== value) : [...done, value] });
  /** Whether a step is against a stop as the run stands; the dialog then says which. */
  const stopped = async (step: StepOut, kind: string): Promise<boolean> => {
    const seen = await client.fetchQuery(options.foresight(jobKey, kind)).catch(() => null);
    if (seen?.stop) setAsked({ kind, words: step.label });
    return !!seen?.stop;
  };
  /** A step is a step of the run too, wherever it is logged: foreseen before, and taken back as a correction. */
  const tick = async (step: StepOut, ticked: boolean) => {
    // What was ticked just before has to be known where the next is foreseen.
    await pending.current;
    if (step.kind && !ticked && (await stopped(step, step.kind))) return;
    keep(step.value, ticked);
    if (step.kind) pending.current = touch.mutateAsync({ kind: ticked ? `undo:${step.kind}` : step.kind }).catch(() => undefined);
  };
  /** Steps that were done before they were ticked, each foreseen in its turn: a stop ends it there. */
  const upTo = async (last: StepOut) => {
    await pending.current;
    setBusy(true);
    const wanted = steps.slice(next, steps.indexOf(last) + 1);
    const logged = wanted.filter((s) => s.kind);
    const kinds = logged.map((s) => s.kind!);
    // Where nobody can be asked, what was done is logged all the same.
    const clear = kinds.length === 0 ? 0 : await client.fetchQuery(options.clear(jobKey, kinds)).then((a) => a.clear, () => kinds.length);
    const stop = logged[clear];
    const made: string[] = [];
    for (const step of stop ? wanted.slice(0, wanted.indexOf(stop)) : wanted) {
      if (step.kind) await log(step.kind);
      made.push(step.value);
      // Kept as it goes: who leaves in the middle finds what was done.
      set({ steps_done: [...done, ...made] });
    }
    if (stop?.kind) setAsked({ kind: stop.kind, words: stop.label });
    setBusy(false);
  };
  const [busy, setBusy] = useState(false);
  const steps = checks.data?.steps ?? [];
  const next = steps.findIndex((s) => !done.includes(s.value));
  const [all, setAll] = useState(false);
  const from = next < 0 ? Math.max(0, steps.length - 3) : Math.max(0, next - 1);
  const shown = all ? steps : steps.slice(from, from + 6);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 md:grid-cols-[minmax(0,1fr)_340px]">
      {(verdict.isPending || checks.isPending || system.isPending) && <Waits className="md:col-span-2">Ordering the steps…</Waits>}
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
      {live && plan.data && <TouchDialog asked={asked} onClose={() => setAsked(null)} jobKey={jobKey} plan={plan.data} live={live} shut={live.shut} />}
      {(checks.data?.lacking ?? []).length > 0 && <Lacking steps={checks.data!.lacking} missing={checks.data!.missing} job={job} editor={editor} />}
      {steps.length > 0 && (
        <Sheet title="Steps, in this order">
          <p className="text-soft" aria-live="polite">
            {steps.filter((s) => done.includes(s.value)).length} of {steps.length} done
          </p>
          <ol className="list-none p-0">
            {shown.map((s) => {
              const i = steps.indexOf(s);
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
                    onClick={() => void tick(s, ticked)}
                    className={`figure grid size-12 flex-none place-items-center rounded-full border-[3px] text-order font-bold ${
                      ticked ? "border-green bg-green-wash text-green" : here ? "border-ink" : "border-strong text-soft"
                    }`}
                  >
                    {ticked ? "✓" : i + 1}
                  </button>
                  <div className="min-w-0 flex-1">
                    <StepBody step={s} large={here} />
                  </div>
                  {all && i > next && next >= 0 && (
                    <Button kind="quiet" className="flex-none px-2! font-normal" disabled={busy} aria-label={`Done up to here: ${s.label}`} onClick={() => void upTo(s)}>
                      Up to here
                    </Button>
                  )}
                </li>
              );
            })}
          </ol>
          {steps.length > 6 && (
            <Button aria-expanded={all} onClick={() => setAll(!all)}>
              {all ? "Only what comes next" : `All ${steps.length} steps`}
            </Button>
          )}
        </Sheet>
      )}
      <Ports jobKey={jobKey} job={job} editor={editor} />
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
