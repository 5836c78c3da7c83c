import { useState } from "react";

import type { RunOut } from "../api/client";
import { useRunPlan } from "../api/practice";
import { capital } from "../lib/capital";
import { Drawn } from "../rig/Drawn";
import { calledOn } from "../rig/parts";
import { Upright } from "../rig/Upright";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";
import { Deeds } from "./Hands";
import { Waits } from "../ui/Waits";

/** The rig line of a practice job. A press on a part shows what hands can do to it; what would follow is not said. */
export function PracticeRig({ runKey, run, busy, onDo }: { runKey: string; run: RunOut; busy: boolean; onDo: (kind: string) => void }) {
  const rigs = run.done.filter((d) => d.kind.startsWith("rig:")).length;
  const plan = useRunPlan(runKey, String(rigs));
  const [asked, setAsked] = useState<string | null>(null);
  if (plan.error && !plan.data) return <Fault title="The rig cannot be drawn" detail={plan.error.message} />;
  if (!plan.data) return <Waits>Drawing the rig…</Waits>;
  const drawn = { ...plan.data, drawing: plan.data.run_drawing, shut: [] };
  const all = run.groups.flatMap((g) => (g.key === "parts" ? g.deeds : []));
  const pump = run.groups.find((g) => g.key === "run")?.deeds.filter((d) => /^(pump|ballast|oil)/.test(d.kind)) ?? [];
  const mine = asked === "pump" ? pump : all.filter((d) => belongs(d.kind, asked));
  const props = {
    plan: drawn,
    pressures: {},
    reading: run.pa !== null && run.pa !== undefined ? "gauge" : run.over_range ? "over" : "gauge",
    shut: run.shut,
    onPart: (part: string) => setAsked(part),
    onValve: (valve: string) => setAsked(valve),
    onSection: (part: string) => setAsked(part),
  };
  return (
    <>
      <div className="hidden overflow-x-auto md:block">
        <Drawn {...props} />
      </div>
      <div className="md:hidden">
        <Upright {...props} />
      </div>
      <Modal open={asked !== null} onClose={() => setAsked(null)} title={asked === null ? "" : capital(calledOn(drawn, asked))}>
        {mine.length === 0 ? (
          <p className="text-soft">Nothing here is turned, pulled or taken off. Everything that can be done is listed under “Valves and parts”.</p>
        ) : (
          <Deeds
            deeds={mine}
            run={run}
            busy={busy}
            onDo={(kind) => {
              onDo(kind);
              setAsked(null);
            }}
          />
        )}
      </Modal>
    </>
  );
}

/** Whether a deed is made on this thing: a valve by its name, a part, a port of a tool by its letter's place. */
function belongs(kind: string, thing: string | null): boolean {
  if (!thing) return false;
  const on = kind.slice(kind.indexOf(":") + 1);
  return on === thing || on.startsWith(`${thing}.`) || on === `system.${thing}` || on.includes(thing);
}
