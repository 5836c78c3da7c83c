import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import type { Job } from "../api/client";
import { commands } from "../api/commands";
import type { Editor } from "../api/editor";
import { options, refreshRun } from "../api/options";
import { settle } from "../api/settle";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/Field";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { Emptied } from "./Emptied";
import { Waits } from "../ui/Waits";

type ReleaseDoc = NonNullable<Job["release"]>;

const TONE: Record<string, "pass" | "caution" | "stop" | "plain"> = { slow: "caution", stop: "pass", over: "stop", still: "caution" };

/** Weighing in: the scale's figure, what is in, when to throttle and when to stop. */
export function ChargeCard({ jobKey, job, editor }: { jobKey: string; job: Job; editor: Editor }) {
  const client = useQueryClient();
  const u = useUnits();
  const release = job.release!;
  const { start_kg: start, end_kg: end, earlier_cylinders: earlier } = release;
  const last = earlier[earlier.length - 1];
  const asked = options.charging(jobKey, editor.version);
  const seen = useQuery(asked);
  const act = useMutation({
    scope: { id: `scale ${jobKey}` },
    mutationFn: (a: { speed: number } | { kind: string } | null) =>
      a === null ? commands.scaleOff(jobKey) : "kind" in a ? commands.scaleTouch(jobKey, a.kind) : commands.scalePace(jobKey, a.speed),
    onSuccess: (out) => {
      settle(client, asked, out);
      refreshRun(client, jobKey);
    },
  });
  // What fails is told below; the button waits for it either way.
  const press = (kind: string) => act.mutateAsync({ kind }).catch(() => undefined);
  const set = (change: Partial<ReleaseDoc>) => editor.edit((j) => ({ ...j, release: { ...j.release!, ...change } }), "typing");
  const c = seen.data;
  if (seen.error && !seen.data) return <Fault title="The charge cannot be worked out" detail={seen.error.message} />;
  if (!c)
    return (
      <Sheet title="Charge">
        <Waits>Working it out…</Waits>
      </Sheet>
    );
  const wanted = c.to_weigh_kg;
  const share = (x: number) => `${Math.min(100, Math.max(0, (100 * x) / (wanted || 1)))}%`;
  // A scale shows grams: more places than a weight in a sentence.
  const kg = (x: number) => (u.of("mass").key === "kg" ? `${u.fixed(x, x < 100 ? 3 : 2)} kg` : u.say("mass", x));
  return (
    <Sheet title="Charge" aside={c.scale ? (c.stale ? "scale is silent" : c.scale_simulated ? "Scale 1, simulated" : "Scale 1") : "no scale"} strong={c.scale}>
      {wanted === null ? (
        <p className="mb-3 text-soft">{c.why}</p>
      ) : (
        <>
          <p>
            To weigh in <span className="figure text-title font-bold">{kg(wanted)}</span>
            <br />
            <span className="text-soft">{c.words}</span>
          </p>
          <div className="relative mt-3 h-6 border-2 border-ink" role="progressbar" aria-label="weighed in" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round((100 * (c.added_kg ?? 0)) / wanted)}>
            <div className="h-full bg-measure" style={{ width: share(c.added_kg ?? 0) }} />
            {c.stop_at_kg !== null && <span aria-hidden className="absolute inset-y-[-5px] w-[3px] bg-stop" style={{ left: share(c.stop_at_kg) }} />}
          </div>
          <p className="mt-1 flex justify-between text-note text-soft">
            <span>{c.added_kg !== null && <>in: <b className="figure text-ink" data-testid="added">{kg(c.added_kg)}</b></>}</span>
            <span>stop at {c.stop_at_kg !== null && <span className="figure">{kg(c.stop_at_kg)}</span>}</span>
          </p>
          {c.phase !== "none" && (
            <div className="mt-2" aria-live="polite">
              <Tag tone={TONE[c.phase] ?? "plain"}>{c.phase}</Tag>
              <p className="casual mt-1 text-order leading-tight font-extrabold">{c.order}</p>
              <p>{c.why}</p>
              {c.flow_g_s > 0 && <p className="figure">{u.grams(c.flow_g_s)}/s</p>}
            </div>
          )}
        </>
      )}
      <Emptied cylinders={c.cylinders} start={c.start_kg} kg={kg} />
      {c.scale ? (
        <div className="mt-3 grid gap-2">
          <p className="figure text-figure leading-none font-bold text-measure" data-testid="weight">
            {c.weight_kg === null ? "…" : kg(c.weight_kg)} <span className="text-base font-normal text-soft">on the scale</span>
          </p>
          <div className="grid grid-cols-3 gap-2">
            {(["cylinder-open", "cylinder-throttle", "cylinder-shut"] as const).map((k) => (
              <Button key={k} className="px-1!" kind={k === "cylinder-shut" && ["stop", "over"].includes(c.phase) ? "solid" : "line"} onClick={() => press(k)}>
                {k === "cylinder-open" ? "Open" : k === "cylinder-throttle" ? "Throttle" : "Close"}
              </Button>
            ))}
          </div>
          <div className="flex flex-wrap gap-2">
            <Button kind="quiet" onClick={() => press(c.running ? "compressor-off" : "compressor-on")}>
              {c.running ? "System stopped" : "System started"}
            </Button>
            {c.start_kg !== null && c.valve === "shut" && (
              <Button kind="quiet" onClick={() => press("cylinder-next")}>
                Next cylinder on the scale
              </Button>
            )}
            <Button kind="quiet" onClick={() => act.mutate(null)}>
              Remove the scale
            </Button>
          </div>
          <p className="text-note text-soft">
            Cylinder {c.valve === "shut" ? "closed" : c.valve}. Simulated scale,{" "}
            {[1, 10].map((s) => (
              <button key={s} type="button" aria-pressed={c.speed === s} className={`figure mr-2 min-h-8 underline ${c.speed === s ? "font-bold" : ""}`} onClick={() => act.mutate({ speed: s })}>
                ×{s}
              </button>
            ))}
          </p>
        </div>
      ) : (
        <div className="mt-3 grid gap-3">
          <div className="grid grid-cols-2 gap-3">
            <NumberField label="Cylinder before" dim="mass" optional min={0} max={5000} value={release.start_kg} onChange={(v) => set({ start_kg: v })} />
            <NumberField label="Cylinder after" dim="mass" optional min={0} max={5000} value={release.end_kg} onChange={(v) => set({ end_kg: v })} />
          </div>
          {release.start_kg !== null && release.start_kg !== undefined && (
            <>
              <NumberField
                key={release.interim_kg.length}
                label="The scale reads now"
                dim="mass"
                optional
                min={0}
                max={5000}
                value={null}
                onChange={(v) => v !== null && set({ interim_kg: [...release.interim_kg, v] })}
              />
              {release.interim_kg.length > 0 && (
                <p className="text-soft">
                  Read so far: <span className="figure">{release.interim_kg.map(kg).join(" · ")}</span>
                </p>
              )}
            </>
          )}
          <div className="flex flex-wrap gap-2">
            {typeof start === "number" && typeof end === "number" && (
              <Button kind="quiet" onClick={() => set({ earlier_cylinders: [...earlier, { start_kg: start, end_kg: end }], start_kg: null, end_kg: null, interim_kg: [] })}>
                Next cylinder on the scale
              </Button>
            )}
            {last && typeof start !== "number" && (
              <Button kind="quiet" onClick={() => set({ earlier_cylinders: earlier.slice(0, -1), ...last })}>
                Back to the one before
              </Button>
            )}
            <Button onClick={() => act.mutate({ speed: 10 })}>Simulated scale</Button>
          </div>
        </div>
      )}
      {act.error && (
        <div className="mt-2">
          <Fault title="Not done" detail={act.error.message} />
        </div>
      )}
      {c.cautions.map((w) => (
        <p key={w} className="mt-2 border-l-4 border-ochre pl-3">
          {w}
        </p>
      ))}
      <p className="mt-2 text-soft">{c.liquid}</p>
      {c.dew_gauge_pa !== null && c.bubble_gauge_pa !== null ? (
        <p className="mt-1 text-soft">
          At this ambient it shows <span className="figure">{u.say("gauge", c.dew_gauge_pa)}</span>
          {Math.abs(c.bubble_gauge_pa - c.dew_gauge_pa) > 2000 && (
            <>
              {" "}
              to <span className="figure">{u.say("gauge", c.bubble_gauge_pa)}</span>
            </>
          )}
          .
        </p>
      ) : (
        <p className="mt-1 text-soft">What it shows at this ambient is not known here: read its own table.</p>
      )}
      <details className="mt-3 border-t-2 border-rule pt-2">
        <summary className="min-h-10 cursor-pointer py-1 font-bold">Cylinder and margin</summary>
        <div className="grid grid-cols-2 gap-3">
          <NumberField label="Held when full" dim="mass" optional min={0.1} max={2000} value={release.cylinder_full_kg} onChange={(v) => set({ cylinder_full_kg: v })} />
          <NumberField label="Its empty weight" dim="mass" min={0} max={2000} value={release.cylinder_tare_kg ?? 0} onChange={(v) => v !== null && set({ cylinder_tare_kg: v })} />
          <NumberField label="Left for trimming" unit="%" min={0} max={50} value={release.margin_pct ?? 5} onChange={(v) => v !== null && set({ margin_pct: v })} />
          <NumberField label="Recovered before" dim="mass" optional min={0} max={5000} value={release.recovered_kg} onChange={(v) => set({ recovered_kg: v })} />
          <NumberField label="Recovery cylinder holds" dim="volume" optional min={0.5} max={2000} value={release.recovery_l} onChange={(v) => set({ recovery_l: v })} />
          <NumberField label="Weighed in, in all" dim="mass" optional min={0} max={2000} value={release.weighed_kg} onChange={(v) => set({ weighed_kg: v })} />
        </div>
      </details>
    </Sheet>
  );
}
