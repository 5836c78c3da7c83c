import { useState } from "react";
import { useNavigate } from "react-router";

import type { LiveOut, TouchOut } from "../api/client";
import { clock, range } from "../lib/format";
import { useUnits } from "../lib/units";
import { usePlan, useReadings, useSystem, useTouch, useTouches } from "../api/queries";
import { Photos } from "../record/Photos";
import { Orders } from "../rig/Orders";
import { Hinted } from "../rig/Hinted";
import { RigLine } from "../rig/RigLine";
import { TouchDialog, kindOf, type Asked } from "../rig/TouchDialog";
import { Button } from "../ui/Button";
import { Computed } from "../ui/Computed";
import { Said } from "../ui/Said";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { AlarmSheet } from "./AlarmSheet";
import { Breaks } from "./Breaks";
import { DrawTrace, isTouch } from "./DrawTrace";
import { Source } from "./Source";
import { Why } from "./Why";
import type { StageProps } from "./types";
import { Waits } from "../ui/Waits";

/** The draw: the figure, the next touch, the trace, the rig line. */
export function Draw({ jobKey, job, editor, live }: StageProps) {
  const plan = usePlan(jobKey, editor.version);
  const system = useSystem(jobKey, editor.version);
  const u = useUnits();
  const readings = useReadings(jobKey);
  const touches = useTouches(jobKey);
  const [asked, setAsked] = useState<Asked>(null);
  if (plan.error && !plan.data) return <Fault title="This rig cannot be computed" detail={plan.error.message} />;
  if (!live || !plan.data || !system.data) return <Waits>Setting up the chart…</Waits>;
  const isolated = live.isolated_at !== null && live.isolated_at !== undefined;
  const shut = [...live.shut, ...(isolated ? plan.data.isolate_valves : [])];
  const drawn = { ...plan.data, shut: plan.data.shut.filter((v) => !live.opened.includes(v)) };
  const step = job.rig?.parts?.find((p) => p.kind === "gauge")?.resolution_micron;
  const has = live.pa !== null && live.pa !== undefined;
  return (
    <div className="grid gap-3 md:grid-cols-[326px_minmax(0,1fr)]">
      <div className="grid content-start gap-3">
        <FigureCard live={live} step={step} />
        <NextCard live={live} jobKey={jobKey} />
      </div>
      <div className="grid min-w-0 content-start gap-3">
        <Sheet className="p-2!">
          <Source jobKey={jobKey} live={live} hasReadings={(readings.data?.length ?? 0) > 0} />
          <DrawTrace jobKey={jobKey} live={live} plan={plan.data} system={system.data} series={readings.data ?? []} touches={touches.data ?? []} />
          <Computed what="Plan" at={plan.dataUpdatedAt} />
        </Sheet>
        <Why jobKey={jobKey} live={live} />
      </div>
      <Sheet className="md:col-span-2">
        <Hinted jobKey={jobKey} kindOf={(valve) => kindOf({ valve }, drawn, live, shut)}>
        <RigLine
          running
          plan={drawn}
          pressures={live.section_pa}
          reading={live.over_range ? "gauge over" : has ? `gauge ${u.reading(live.pa!, step)}` : "gauge"}
          readings={Object.fromEntries(live.gauges.filter((g) => g.part && g.pa !== null).map((g) => [g.part!, `${g.gauge} ${u.reading(g.pa!, undefined)}`]))}
          shut={shut}
          onValve={(valve) => setAsked({ valve })}
          onPart={(part) => setAsked(part === "pump" ? { valve: null } : { part })}
          onSection={(part) => setAsked({ part })}
        />
        </Hinted>
        {Object.keys(live.section_pa).length > 0 && <p className="mt-1 text-note text-soft">Pressures in the parts are computed from the plan; only the flag is measured.</p>}
      </Sheet>
      <TouchList jobKey={jobKey} touches={touches.data ?? []} start={live.started_at ?? 0} />
      <Breaks jobKey={jobKey} version={editor.version} made={live.breaks} />
      <AlarmSheet editor={editor} running={live.phase !== "before"} />
      <Orders jobKey={jobKey} job={job} editor={editor} />
      <TouchDialog asked={asked} onClose={() => setAsked(null)} jobKey={jobKey} plan={drawn} live={live} shut={shut} />
    </div>
  );
}

/** The last reading, large, and how it goes. */
function FigureCard({ live, step }: { live: LiveOut; step: number | undefined }) {
  const u = useUnits();
  const target = live.target_at;
  const said = live.over_range ? "over range" : live.pa !== null && live.pa !== undefined ? `reads ${u.reading(live.pa, step)} ${u.label("pressure")}` : "no reading yet";
  return (
    <Sheet>
      <Said text={`${live.gauge} ${said}`} />
      <div className="flex items-baseline justify-between">
        <span className="font-bold">{live.gauge_place}</span>
        <span className="text-soft">{live.gauge}</span>
      </div>
      <p className="figure text-reading leading-[1.16] font-bold whitespace-nowrap text-measure" data-testid="figure">
        {live.over_range ? (
          "over"
        ) : live.pa !== null && live.pa !== undefined ? (
          <>
            {u.reading(live.pa, step)}
            <span className="text-order text-ink"> {u.label("pressure")}</span>
          </>
        ) : (
          <span className="text-strong">—</span>
        )}
      </p>
      <div className="flex items-baseline justify-between gap-2">
        <span className="figure text-lead font-bold">
          {live.rate_micron_s !== null && live.rate_micron_s !== undefined ? u.rate(live.rate_micron_s) : live.over_range ? "over range" : live.pa !== null && live.pa !== undefined ? "no rate yet" : "no reading yet"}
        </span>
        <span>{live.words}</span>
      </div>
      {target && live.phase === "draw" && target.high > live.now + 5 && (
        <p className="text-soft">
          whole system at <span className="figure">{u.say("pressure", live.goal_pa)}</span> about <span className="figure font-bold text-ink">{clock(target.value)}</span>{" "}
          <span className="figure">
            {clock(target.low)}–{clock(target.high)}
          </span>
        </p>
      )}
      {live.fit && live.phase === "draw" && (
        <p className="text-note text-soft" data-testid="fit">
          {live.fit.words} <Unknowns live={live} />
        </p>
      )}
      {live.gauges.map((g) => (
        <div key={g.part ?? g.gauge} className="mt-1 border-t border-rule pt-1" data-testid="other-gauge">
          <p className="flex items-baseline justify-between gap-2">
            <span>
              {g.gauge} <span className="text-note text-soft">{g.place}</span>
            </span>
            <span className="figure font-bold whitespace-nowrap">{g.pa === null || g.pa === undefined ? "over range" : u.say("pressure", g.pa)}</span>
          </p>
          {g.planned && (
            <p className="text-note text-soft">
              plan <span className="figure">{u.say("pressure", g.planned.value)}</span>, <span className="figure">{range(g.planned, (x) => u.say("pressure", x))}</span>
            </p>
          )}
        </div>
      ))}
      {live.between && (
        <p className="mt-1 border-l-4 border-measure pl-2" data-testid="between">
          {live.between}
        </p>
      )}
      {live.stale && <Tag tone="caution">stale: nothing heard from the gauge</Tag>}
      {live.battery_pct !== null && live.battery_pct !== undefined && live.battery_pct < 20 && <Tag tone="caution">gauge battery {Math.round(live.battery_pct)} %</Tag>}
    </Sheet>
  );
}

/** What the readings make of the unknowns, where they matter. */
function Unknowns({ live }: { live: LiveOut }) {
  const u = useUnits();
  const f = live.fit;
  if (!f || f.contradicts) return null;
  const said = [];
  if (f.water_g.high > 0.05) said.push(`Free water ${range(f.water_g, u.grams)}`);
  if (f.volume_l.high < 1.6 * f.volume_l.low) said.push(`Volume by the draw ${range(f.volume_l, (l) => u.say("volume", l))}`);
  if (f.leak_pa_m3_s.value > 5e-5) said.push(`Leak ${range(f.leak_pa_m3_s, u.scientific)} Pa·m³/s`);
  return said.length > 0 ? <span>{said.join(". ")}.</span> : null;
}

/** The one touch that comes next: what, when, why, the caution. */
export function NextCard({ live, jobKey }: { live: LiveOut; jobKey: string }) {
  const touch = useTouch(jobKey);
  const navigate = useNavigate();
  const [why, setWhy] = useState(false);
  const [skipped, setSkipped] = useState<string[]>([]);
  const ahead = live.next.filter((n) => !skipped.includes(n.kind));
  const [now, then] = ahead;
  if (!now) return null;
  const due = now.due_at;
  const isNow = due !== null && due !== undefined && due <= live.now + 1;
  const done = () => {
    if (now.kind === "read-hold") {
      void navigate(`/jobs/${jobKey}/hold`);
      return;
    }
    const first = now.first === "ballast-open" && live.ballast_open ? undefined : now.first || undefined;
    touch.mutate({ kind: now.kind, first, said: now.title });
  };
  return (
    <Sheet strong>
      <div aria-live="polite">
        <Tag tone={isNow ? "caution" : "plain"}>
          {isNow ? "now" : due !== null && due !== undefined ? `about ${clock(due)}` : "later"}
        </Tag>
        <p className="casual mt-2 text-order leading-[1.2] font-extrabold" data-testid="next-step">
          {now.title}
        </p>
      </div>
      <p className="mt-2">{now.why}</p>
      {why && <p className="mt-2 border-l-4 border-ochre pl-3">{now.caution}</p>}
      {then && (
        <p className="mt-2 text-soft">
          Next{then.due_at ? <span className="figure">, {clock(then.due_at)}</span> : null}: {then.title}.
        </p>
      )}
      {touch.error && (
        <div className="mt-2">
          <Fault title="Not logged" detail={touch.error.message} />
        </div>
      )}
      <div className="mt-4 grid grid-cols-[1fr_auto_auto] gap-2.5">
        {now.kind !== "wait" && (
          <Button kind="solid" onClick={done} disabled={touch.isPending}>
            {now.kind === "read-hold" ? "Read it" : "Done"}
          </Button>
        )}
        <Button onClick={() => setWhy((w) => !w)} aria-expanded={why}>
          Caution
        </Button>
        {now.kind !== "pump-on" && now.kind !== "read-hold" && (
          <Button
            onClick={() => {
              setSkipped((s) => [...s, now.kind]);
              touch.mutate({ kind: "note", note: `skipped: ${now.title}` });
            }}
          >
            Skip
          </Button>
        )}
      </div>
    </Sheet>
  );
}

function TouchList({ jobKey, touches, start }: { jobKey: string; touches: TouchOut[]; start: number }) {
  const shown = touches.filter((t) => t.kind !== "note" || !t.note.startsWith("{"));
  if (shown.length === 0) return null;
  const numbered = shown.filter((t) => isTouch(t) && t.at > start + 5);
  // A picture is of a step by its kind: it hangs on the last of them.
  const last = new Map(shown.filter(isTouch).map((t) => [t.kind, t]));
  return (
    <Sheet title="Steps logged" fold="draw-log" className="md:col-span-2">
      <ol className="grid list-none gap-x-8 p-0 sm:grid-cols-2 lg:grid-cols-3">
        {shown.map((t, i) => (
          <li key={i} className="flex min-h-9 items-center gap-2">
            <span className="figure w-6 flex-none text-center font-bold">{numbered.indexOf(t) + 1 || "·"}</span>
            <span className="figure">{clock(t.at, true)}</span>
            <span>
              {t.words}
              {t.hand && <span className="text-soft">, {t.hand}</span>}
              {t.note && <span className="text-soft"> {t.note}</span>}
            </span>
            {last.get(t.kind) === t && (
              <span className="ml-auto">
                <Photos jobKey={jobKey} about={`step:${t.kind}`} of={`the step “${t.words}”`} small />
              </span>
            )}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
