import { Undo2 } from "lucide-react";
import { lazy, Suspense, useEffect, type ComponentType, type LazyExoticComponent } from "react";
import { useNavigate, useParams } from "react-router";

import { useEditor } from "../api/editor";
import { useCatalogue, useJob, useLive, useStages } from "../api/queries";
import { useWatched } from "../api/news";
import { useTitle } from "../lib/title";
import { Guarded } from "../shell/Broken";
import { typing } from "../shell/keys";
import { Onward } from "../shell/Onward";
import { Share } from "../shell/Share";
import { StageLine } from "../shell/StageLine";
import { StageRail, STAGE_NAMES } from "../shell/StageRail";
import type { StageProps } from "../stages/types";
import { Button } from "../ui/Button";
import { Fault } from "../ui/Sheet";
import { GaugeState } from "../stages/GaugeState";
import { Lost } from "./Lost";
import { Unopened } from "./Unopened";
import { Waits } from "../ui/Waits";

/** Each stage is fetched when it is opened: a phone beside the unit needs one of them. */
const STAGES: Record<string, LazyExoticComponent<ComponentType<StageProps>>> = {
  scope: lazy(async () => ({ default: (await import("../stages/Scope")).Scope })),
  rig: lazy(async () => ({ default: (await import("../stages/Rig")).Rig })),
  prove: lazy(async () => ({ default: (await import("../stages/Prove")).Prove })),
  draw: lazy(async () => ({ default: (await import("../stages/Draw")).Draw })),
  hold: lazy(async () => ({ default: (await import("../stages/Hold")).Hold })),
  release: lazy(async () => ({ default: (await import("../stages/Release")).Release })),
  record: lazy(async () => ({ default: (await import("../stages/Record")).Record })),
};

/** One job: its heading, its stage rail, and the stage that is open. */
export function JobPage() {
  const { jobKey = "", stage = "" } = useParams();
  const Stage = STAGES[stage];
  if (!Stage || !(stage in STAGE_NAMES)) return <Lost />;
  return <Opened key={jobKey} jobKey={jobKey} stage={stage} />;
}

function Opened({ jobKey, stage }: { jobKey: string; stage: string }) {
  const found = useJob(jobKey);
  const editor = useEditor(jobKey);
  const stages = useStages(jobKey);
  const kinds = useCatalogue();
  const live = useLive(jobKey);
  useWatched(jobKey);
  const navigate = useNavigate();
  useEffect(() => {
    const order = Object.keys(STAGES);
    const press = (e: KeyboardEvent) => {
      if (typing(e) || (e.key !== "[" && e.key !== "]") || document.querySelector("[role=dialog]")) return;
      // Keys come faster than pages are drawn: where it stands is read from the address.
      const here = window.location.pathname.split("/")[3] ?? "";
      const to = order[order.indexOf(here) + (e.key === "]" ? 1 : -1)];
      if (to) void navigate(`/jobs/${jobKey}/${to}`);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [jobKey, navigate]);
  const Stage = STAGES[stage]!;
  const who = editor.job?.party;
  useTitle(`${STAGE_NAMES[stage as keyof typeof STAGE_NAMES]}: ${[who?.customer || "New job", who?.unit].filter(Boolean).join(", ")}`);

  if (found.error && !editor.job) return <Unopened jobKey={jobKey} error={found.error} />;
  if (!editor.job) return <Waits className="p-6">Opening the sheet…</Waits>;
  const { party, scope } = editor.job;
  const facts = [party?.unit, kinds.data?.templates.find((t) => t.value === scope?.template)?.label, scope?.refrigerant, scope?.oil].filter(Boolean);
  return (
    <>
      <header className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-heading font-extrabold">{party?.customer || "New job"}</h1>
        {(kinds.isPending || live.isPending || stages.isPending) && <Waits />}
        <p className="text-soft">{facts.join(" · ")}</p>
        <div className="ml-auto flex flex-wrap items-center justify-end gap-2">
          {editor.canUndo && (
            <Button kind="quiet" className="flex items-center gap-1 px-2 font-normal" onClick={editor.undo}>
              <Undo2 size={18} aria-hidden /> Undo
            </Button>
          )}
          <Share jobKey={jobKey} title={[party?.customer, party?.unit].filter(Boolean).join(", ") || "New job"} />
          <GaugeState live={live.data} />
        </div>
      </header>
      <div className="mb-3">
        <StageRail jobKey={jobKey} stages={stages.data ?? []} now={stage} />
      </div>
      {editor.fault && (
        <div className="mb-3">
          <Fault title={editor.fault.problem.title} detail={editor.fault.problem.detail} faults={editor.fault.problem.faults} />
        </div>
      )}
      <StageLine stage={stage} />
      <Guarded key={stage} what="stage">
        <Suspense fallback={<Waits className="p-6">Opening…</Waits>}>
          <Stage jobKey={jobKey} editor={editor} job={editor.job} live={live.data} stages={stages.data ?? []} />
          <Onward jobKey={jobKey} stage={stage} stages={stages.data ?? []} />
        </Suspense>
      </Guarded>
    </>
  );
}
