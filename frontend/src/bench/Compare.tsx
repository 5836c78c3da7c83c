import type { Job, PlanOut, RigPlan } from "../api/client";
import type { Editor } from "../api/editor";
import { useCompare } from "../api/queries";
import { percent, span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Fault } from "../ui/Sheet";
import { TextField } from "../ui/Field";
import { Waits } from "../ui/Waits";

/** Up to four rigs on the same system, side by side. */
export function Compare({ jobKey, job, editor, ready }: { jobKey: string; job: Job; editor: Editor; ready: boolean }) {
  const { data, error } = useCompare(jobKey, editor.version, ready);
  const u = useUnits();
  const aside = job.aside ?? [];
  if (error) return <Fault title="The rigs cannot be compared" detail={error.message} />;
  if (!data) return <Waits>Planning each rig…</Waits>;
  const good = data.filter((r): r is RigPlan & { plan: PlanOut } => r.plan !== null && r.plan !== undefined);
  const most = Math.max(...good.map((r) => r.plan.time_to_target_s?.high ?? 0), 60);
  const best = Math.min(...good.map((r) => r.plan.time_to_target_s?.value ?? Infinity));
  const keep = () =>
    editor.edit((j) => ({ ...j, aside: [...(j.aside ?? []), { name: `Rig ${(j.aside ?? []).length + 2}`, rig: j.rig! }] }));
  return (
    <div>
      <Curves rigs={good} />
      <div className="grid gap-3 md:grid-cols-2 lg:grid-cols-4">
        {data.map((r) => (
          <section key={r.index} className={`rounded-[5px] border-2 p-3 ${r.index === 0 ? "border-ink" : "border-strong"}`} aria-label={r.name}>
            {r.index === 0 ? (
              <h3 className="text-lead">
                <Mark n={0} /> {r.name}
              </h3>
            ) : (
              <div className="flex items-end gap-2">
                <Mark n={r.index} />
                <div className="min-w-0 flex-1">
                  <TextField
                    label="Name"
                    value={aside[r.index - 1]?.name ?? ""}
                    onChange={(v) => editor.edit((j) => ({ ...j, aside: (j.aside ?? []).map((a, i) => (i === r.index - 1 ? { ...a, name: v } : a)) }), "typing")}
                  />
                </div>
              </div>
            )}
            {r.plan ? (
              <>
                <p className="mt-2">
                  <span className={`figure text-title font-bold ${r.plan.time_to_target_s?.value === best ? "text-green" : ""}`}>
                    {r.plan.time_to_target_s ? span(r.plan.time_to_target_s.value) : "never"}
                  </span>{" "}
                  {r.plan.time_to_target_s?.value === best && data.length > 1 && <b className="text-green">soonest</b>}
                </p>
                <Span plan={r.plan} most={most} />
                <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 text-note">
                  <dt className="text-soft">at the target</dt>
                  <dd className="figure">{u.say("flow", r.plan.speed_at_target_m3_s)}</dd>
                  <dt className="text-soft">limited by</dt>
                  <dd>{choke(r.plan)}</dd>
                  <dt className="text-soft">gauge off by</dt>
                  <dd className="figure">{u.say("pressure", Math.abs(r.plan.gauge_error_pa))}</dd>
                  <dt className="text-soft">in the hold test</dt>
                  <dd>{r.plan.isolate_inside}</dd>
                  <dt className="text-soft">findings</dt>
                  <dd>
                    {count(r.plan, "stop")} stop, {count(r.plan, "caution")} caution
                  </dd>
                </dl>
              </>
            ) : (
              <Fault title="Cannot be computed" detail={r.fault} />
            )}
            {r.index > 0 && (
              <div className="mt-3 flex gap-2">
                <Button className="flex-1" onClick={() => editor.ask("apply", { key: `aside-${r.index - 1}` })}>
                  Use this one
                </Button>
                <Button kind="stop" onClick={() => editor.edit((j) => ({ ...j, aside: (j.aside ?? []).filter((_, i) => i !== r.index - 1) }))}>
                  Remove
                </Button>
              </div>
            )}
          </section>
        ))}
        {aside.length < 3 && (
          <button type="button" onClick={keep} className="casual min-h-28 rounded-[5px] border-2 border-dashed border-strong font-bold text-soft hover:border-ink hover:text-ink">
            Set this rig aside, change it, compare
          </button>
        )}
      </div>
    </div>
  );
}

const count = (p: PlanOut, severity: string): number => p.findings.filter((f) => f.severity === severity).length;

function choke(p: PlanOut): string {
  const worst = [...p.parts].sort((a, b) => b.share - a.share)[0];
  if (!worst || p.pump_share > worst.share) return `the pump, ${percent(p.pump_share)}`;
  return `${worst.label}${worst.side ? ` (${worst.side.replaceAll("-", " ")})` : ""}, ${percent(worst.share)}`;
}

const DASH = ["", "10 5", "3 4", "12 4 3 4"];

function Mark({ n }: { n: number }) {
  return (
    <svg width="34" height="12" aria-hidden className="mb-1 inline-block flex-none">
      <path d="M0 6H34" stroke="var(--ink)" strokeWidth={n === 0 ? 3.5 : 2.5} strokeDasharray={DASH[n]} />
    </svg>
  );
}

/** From the early to the late case on one scale for all. */
function Span({ plan, most }: { plan: PlanOut; most: number }) {
  const t = plan.time_to_target_s;
  if (!t) return <div className="hatch h-3 border border-strong" aria-hidden />;
  const x = (v: number) => `${(100 * v) / most}%`;
  return (
    <div className="relative h-3 bg-rule" aria-hidden>
      <div className="hatch absolute inset-y-0 border-x-2 border-pencil" style={{ left: x(t.low), width: `max(4px, ${(100 * (t.high - t.low)) / most}%)` }} />
      <div className="absolute inset-y-0 w-[3px] bg-ink" style={{ left: x(t.value) }} />
    </div>
  );
}

/** The predicted curves over one another, told apart by their dashes. */
function Curves({ rigs }: { rigs: { index: number; plan: PlanOut }[] }) {
  const W = 1100;
  const H = 190;
  const M = 101325 / 760000;
  if (rigs.length < 2) return null;
  const ends = rigs.map((r) => r.plan.time_to_target_s?.value ?? 0).filter((v) => v > 0);
  const end = 1.15 * Math.max(60, ...ends);
  const low = Math.log10(Math.min(...rigs.map((r) => r.plan.target_pa)) / M / 1.6);
  const x = (t: number) => 60 + ((W - 70) * t) / end;
  const y = (pa: number) => 10 + ((H - 34) * (6 - Math.log10(Math.max(pa / M, 1)))) / (6 - low);
  const target = rigs[0]!.plan.target_pa;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="mb-3 w-full" role="img" aria-label="Predicted curves of the rigs on the same system">
      {[3, 4, 5].map((d) => (
        <path key={d} d={`M60 ${y(10 ** d * M)}H${W - 10}`} stroke="var(--strong-rule)" />
      ))}
      <path d={`M60 ${y(target)}H${W - 10}`} stroke="var(--green)" strokeWidth="2" />
      <text x={W - 14} y={y(target) - 5} textAnchor="end" fontSize="14" fill="var(--ink)">
        target
      </text>
      {rigs.map((r) => {
        const points = r.plan.times.map((t, i) => [t, r.plan.system_mid[i]!] as const).filter(([t]) => t <= end);
        return (
          <path
            key={r.index}
            d={points.map(([t, p], i) => `${i ? "L" : "M"}${x(t).toFixed(1)} ${y(p).toFixed(1)}`).join("")}
            fill="none"
            stroke={r.index === 0 ? "var(--ink)" : "var(--pencil)"}
            strokeWidth={r.index === 0 ? 3.5 : 2.5}
            strokeDasharray={DASH[r.index]}
          />
        );
      })}
      {[0, 0.25, 0.5, 0.75, 1].map((f) => (
        <text key={f} x={x(end * f)} y={H - 6} textAnchor={f === 0 ? "start" : f === 1 ? "end" : "middle"} fontSize="14" fill="var(--soft)" className="figure">
          {span(end * f)}
        </text>
      ))}
    </svg>
  );
}
