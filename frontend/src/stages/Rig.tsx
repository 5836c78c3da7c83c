import { useEffect, useState } from "react";

import { ApiError } from "../api/client";
import { useChanges, usePlan } from "../api/queries";
import { Changes, Findings, Questions, Shares } from "../bench/Changes";
import { Carry } from "../bench/Carry";
import { Compare } from "../bench/Compare";
import { CordSheet } from "../bench/CordSheet";
import { JobDay } from "../bench/JobDay";
import { PartEditor } from "../bench/PartEditor";
import { momentAt, Prediction } from "../bench/Prediction";
import { RigTools } from "../bench/RigTools";
import { useUnits } from "../lib/units";
import { partOf } from "../rig/parts";
import { atMoment } from "../rig/Ribbon";
import { RigLine } from "../rig/RigLine";
import { Fault, Folded, Sheet } from "../ui/Sheet";
import { Tabs } from "../ui/Tabs";
import type { StageProps } from "./types";
import { Waits } from "../ui/Waits";

/** Pump, hoses, cores, gauge: what this rig will do, and what to change first. */
export function Rig({ jobKey, job, editor }: StageProps) {
  const plan = usePlan(jobKey, editor.version);
  const ready = plan.isSuccess && !plan.isPlaceholderData && plan.data.whole;
  const changes = useChanges(jobKey, editor.version, ready);
  const [part, setPart] = useState<string | null>(null);
  const [hand, setHand] = useState<number | null>(null);
  const [side, setSide] = useState("change");
  const u = useUnits();
  useEffect(() => {
    const leave = (e: KeyboardEvent) => e.key === "Escape" && !e.defaultPrevented && setPart(null);
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, []);
  const p = plan.data;
  const take = (key: string) => void editor.ask("apply", { key });
  const chosen = part !== null && partOf(job.rig, part) ? part : null;
  const moment = p && hand !== null ? momentAt(p, hand) : null;
  const pressures = moment ? Object.fromEntries(Object.entries(moment.pa).map(([k, v]) => [k.replace(/^system\./, ""), v])) : {};
  const open = (p?.findings ?? []).filter((f) => f.severity !== "note").length;
  return (
    <div className="grid gap-4">
      <RigTools jobKey={jobKey} job={job} editor={editor} plan={p} onPart={setPart} />
      {plan.error && (
        <Fault
          title="This rig cannot be computed"
          detail={`${plan.error.message}${p ? " What is shown is the last rig that could be." : ""}`}
          faults={plan.error instanceof ApiError ? plan.error.problem.faults : []}
        />
      )}
      {p && (
        <>
          <Sheet strong className="p-3!">
            <RigLine
              plan={p}
              pressures={pressures}
              slices={moment ? atMoment(p, moment) : undefined}
              selected={chosen}
              onPart={(x) => setPart((now) => (now === x ? null : x))}
              reading={moment ? `gauge ${u.figure("pressure", moment.pa[p.gauge_node] ?? 0)}` : "gauge"}
            />
            <p className="mt-2">{p.limit}</p>
          </Sheet>
          {chosen && <PartEditor job={job} editor={editor} plan={p} part={chosen} onClose={() => setPart(null)} />}
          <div className="grid items-start gap-4 md:grid-cols-[minmax(0,1fr)_480px]">
            <Prediction plan={p} hand={hand} onHand={setHand} />
            <Tabs
              label="What to do about this rig"
              value={side}
              onChange={setSide}
              tabs={[
                { key: "change", label: "Change first", body: <Changes changes={changes.data} plan={p} onTake={take} /> },
                { key: "findings", label: `Findings${open ? ` ${open}` : ""}`, body: <Findings plan={p} saves={changes.data?.saves ?? {}} onFix={take} onShow={setPart} /> },
                { key: "time", label: "Time", body: <Shares changes={changes.data} /> },
                { key: "questions", label: "Setup check", body: <Questions plan={p} /> },
              ]}
            />
          </div>
          <Folded name="rig-bench" title="Side by side, what to carry, the day, cord">
            <Tabs
            label="The bench"
            tabs={[
              { key: "compare", label: "Side by side", body: <Compare jobKey={jobKey} job={job} editor={editor} ready={ready} /> },
              { key: "carry", label: "What to carry", body: <Carry jobKey={jobKey} job={job} editor={editor} /> },
              { key: "day", label: "The day", body: <JobDay jobKey={jobKey} job={job} editor={editor} /> },
              { key: "cord", label: "Cord", body: <CordSheet job={job} editor={editor} plan={p} /> },
            ]}
            />
          </Folded>
        </>
      )}
      {plan.isPending && <Waits>Planning it…</Waits>}
    </div>
  );
}
