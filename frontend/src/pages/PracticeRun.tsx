import { Pause, Play } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import type { RunOut } from "../api/client";
import { commands } from "../api/commands";
import { useDeed, useRun, useTrack } from "../api/practice";
import { span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Calls } from "../practice/Calls";
import { elapsed } from "../practice/elapsed";
import { Hands } from "../practice/Hands";
import { PracticeRig } from "../practice/PracticeRig";
import { RigUp } from "../practice/RigUp";
import { RunTrace } from "../practice/RunTrace";
import { PutWrong, WhatIsSo } from "../practice/WhatIsSo";
import { Button } from "../ui/Button";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { PACES } from "../lib/paces";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

/** A practice job as it goes on: the figure and the clock, the chart, what hands can do, what a person says of it. */
export function PracticeRun() {
  useTitle("Practice job");
  const key = useParams().runKey ?? "";
  const run = useRun(key);
  const deed = useDeed(key);
  const track = useTrack(key, run.data?.time);
  const [rigging, setRigging] = useState(false);
  const navigate = useNavigate();
  if (run.error && !run.data) return <Fault title="This practice job cannot be opened" detail={run.error.message} />;
  if (!run.data) return <Waits>Setting it up…</Waits>;
  const r = run.data;
  const act = (kind: string) => deed.mutate({ kind });
  const leave = () => commands.dropPractice(key).then(() => navigate("/practice"));
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(300px,340px)_minmax(0,1fr)]">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4 lg:col-span-2">
        <h1 className="text-heading">{r.scenario.title}</h1>
        <p className="text-soft">
          <Link to="/practice" className="underline">
            Practice
          </Link>
          {[r.scenario.place, r.scenario.system].filter(Boolean).map((x) => ` · ${x}`)}
        </p>
      </header>
      {r.ended && (
        <div className="flex flex-wrap items-center gap-3 lg:col-span-2">
          <Tag tone="pass">over</Tag>
          <Link to="debrief" className="casual inline-flex min-h-12 items-center rounded-[5px] border-2 border-ink bg-ink px-4 font-bold text-on-ink">
            To the debrief
          </Link>
        </div>
      )}
      <div className="grid content-start gap-3">
        <Clock run={r} busy={deed.isPending} onPace={(speed) => deed.mutate({ speed })} />
        {r.truth ? <WhatIsSo truth={r.truth} /> : <Sheet title="The job">
          <p>{r.scenario.brief}</p>
          <p className="mt-2 text-soft">
            {r.school}. {r.scenario.ends === "release" ? "It ends with the unit's charge let in, cores back, ports capped." : "It ends with your verdict."}
          </p>
        </Sheet>}
      </div>
      <div className="grid min-w-0 content-start gap-3">
        {deed.error && <Fault title="Not done" detail={deed.error.message} />}
        <Sheet className="p-2!">
          <RunTrace run={r} track={track} />
        </Sheet>
      </div>
      <Sheet
        className="p-3! lg:col-span-2"
        title="The rig"
        aside={
          <Button disabled={r.ended !== "" || r.charged} onClick={() => setRigging(true)}>
            {r.rigged ? "Put on another rig" : "Put a rig together"}
          </Button>
        }
      >
        {r.rigged ? <PracticeRig runKey={key} run={r} busy={deed.isPending} onDo={act} /> : <p className="text-soft">Nothing is connected yet. The van is open.</p>}
      </Sheet>
      <div className={`${r.truth ? "" : "order-last lg:order-none "}grid content-start gap-3`}>
        {r.truth ? <PutWrong truth={r.truth} busy={deed.isPending} onDo={act} onDone={() => void leave()} /> : <Calls run={r} busy={deed.isPending} onDo={act} />}
      </div>
      <div className="grid min-w-0 content-start gap-3">
        <Hands run={r} busy={deed.isPending} onDo={act} />
        <Log run={r} />
      </div>
      <RigUp runKey={key} open={rigging} onClose={() => setRigging(false)} onRig={(choice) => deed.mutate({ kind: `rig:${choice.pattern}`, choice })} />
    </div>
  );
}

/** The last reading, large; the job's clock and its pace. */
function Clock({ run, busy, onPace }: { run: RunOut; busy: boolean; onPace: (speed: number) => void }) {
  const u = useUnits();
  const has = run.pa !== null && run.pa !== undefined;
  return (
    <Sheet strong>
      <div className="flex items-baseline justify-between">
        <span className="font-bold">
          <span className="figure">{elapsed(run.time, true)}</span> on the job
        </span>
        <span className="text-soft">{run.pump_on ? "pump running" : "pump stopped"}</span>
      </div>
      <p className="figure text-reading leading-[1.16] font-bold whitespace-nowrap text-measure" data-testid="figure">
        {has ? (
          <>
            {u.reading(run.pa!)}
            <span className="text-order text-ink"> {u.label("pressure")}</span>
          </>
        ) : run.over_range ? (
          "over"
        ) : (
          <span className="text-strong">—</span>
        )}
      </p>
      <p className="flex items-baseline justify-between">
        <span className="figure text-lead font-bold">{run.rate_micron_s !== null && run.rate_micron_s !== undefined ? u.rate(run.rate_micron_s) : run.rigged ? "no rate yet" : "no rig yet"}</span>
        <span>{run.isolated ? "isolated" : ""}</span>
      </p>
      {run.second_pa !== null && run.second_pa !== undefined && (
        <p className="flex items-baseline justify-between border-t border-rule pt-1">
          <span>Second gauge, at the pump</span>
          <span className="figure font-bold">{u.say("pressure", run.second_pa)}</span>
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="Pace of time">
        <Button className="min-w-11 px-2!" disabled={busy || run.ended !== ""} aria-pressed={run.speed === 0} kind={run.speed === 0 ? "solid" : "line"} onClick={() => onPace(0)} aria-label="Time stands">
          {run.speed === 0 ? <Pause size={18} aria-hidden /> : <Play size={18} aria-hidden />}
        </Button>
        {PACES.map((s) => (
          <Button key={s} className="figure min-w-12 flex-1 px-1!" disabled={busy || run.ended !== ""} aria-pressed={run.speed === s} kind={run.speed === s ? "solid" : "line"} onClick={() => onPace(s)}>
            ×{s}
          </Button>
        ))}
      </div>
      {run.speed === 0 && run.ended === "" && <p className="mt-2 text-note text-soft">Time stands until you choose a pace; hands take their time all the same.</p>}
    </Sheet>
  );
}

/** What was done, the latest first, with what it showed. */
function Log({ run }: { run: RunOut }) {
  if (run.done.length === 0) return null;
  return (
    <Sheet title="Done so far" aside={run.arrived > 0 ? `you came after ${span(run.arrived)}` : undefined}>
      <ol className="max-h-72 list-none overflow-auto p-0" aria-live="polite">
        {[...run.done].reverse().map((d, i) => (
          <li key={run.done.length - i} className="flex gap-3 border-b border-rule py-1.5 last:border-b-0">
            <span className="figure flex-none">{elapsed(d.at)}</span>
            <span>
              {d.words}
              {d.showed && <strong className="block">{d.showed}</strong>}
            </span>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
