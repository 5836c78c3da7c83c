import { useState } from "react";

import type { GateOut, ProveOut } from "../api/client";
import { useProve } from "../api/queries";
import { AllSeen } from "../prove/AllSeen";
import { Bench } from "../prove/Bench";
import { GaugeForm, ItemsForm, OilForm, TestForm } from "../prove/forms";
import { GateMark, STATE_WORDS } from "../prove/GateMark";
import { Skip } from "../prove/Skip";
import { Photos } from "../record/Photos";
import { useNarrow } from "../lib/narrow";
import { Fault, Sheet } from "../ui/Sheet";
import type { StageProps } from "./types";
import { Waits } from "../ui/Waits";

/** The gates before the pump runs, each by its evidence: one list, and the one that is open beside it. */
export function Prove(props: StageProps) {
  const { data, error } = useProve(props.jobKey, props.editor.version);
  const [picked, setPicked] = useState<string | null>(null);
  const narrow = useNarrow();
  if (error) return <Fault title="What was proved cannot be judged" detail={error.message} />;
  if (!data) return <Waits>Reading the evidence…</Waits>;
  const first = data.gates.find((g) => g.state === "open" || g.state === "failed") ?? data.gates[0];
  const chosen = data.gates.find((g) => g.key === picked) ?? (narrow ? undefined : first);
  const left = data.gates.filter((g) => g.state === "open" || g.state === "failed").length;
  return (
    <div className="grid items-start gap-4 md:grid-cols-[minmax(360px,440px)_minmax(0,1fr)]">
      <Sheet title="Before the pump runs" aside={left === 0 ? "nothing holds it up" : `${left} of ${data.gates.length} to go`}>
        <AllSeen gates={data.gates} proof={data} job={props.job} editor={props.editor} />
        <ul className="list-none p-0">
          {data.gates.map((g) => (
            <li key={g.key} className="border-t-2 border-rule first:border-0">
              <GateRow gate={g} open={chosen?.key === g.key} onPick={() => setPicked(narrow && chosen?.key === g.key ? null : g.key)} />
              {narrow && chosen?.key === g.key && <Detail gate={g} proof={data} {...props} />}
            </li>
          ))}
        </ul>
      </Sheet>
      {!narrow && chosen && (
        <Sheet title={chosen.title} aside={STATE_WORDS[chosen.state]} className="md:sticky md:top-2">
          <Detail key={chosen.key} gate={chosen} proof={data} {...props} />
        </Sheet>
      )}
    </div>
  );
}

function GateRow({ gate, open, onPick }: { gate: GateOut; open: boolean; onPick: () => void }) {
  return (
    <button type="button" aria-expanded={open} onClick={onPick} className={`flex w-full items-start gap-3 px-1 py-2.5 text-left ${open ? "bg-green-wash" : ""}`}>
      <GateMark state={gate.state} />
      <span className="min-w-0 flex-1">
        <span className="block font-bold">{gate.title}</span>
        <span className="line-clamp-2 text-note text-soft">{gate.state === "skipped" ? `Skipped: ${gate.words}` : gate.words}</span>
      </span>
    </button>
  );
}

function Detail({ gate, proof, ...props }: StageProps & { gate: GateOut; proof: ProveOut }) {
  const prove = props.job.prove!;
  const set = (change: Partial<typeof prove>) => props.editor.edit((j) => ({ ...j, prove: { ...j.prove!, ...change } }), "typing");
  const given = { gate, proof, prove, set, ...props };
  return (
    <div className="grid gap-3 pb-3">
      <p>{gate.why}</p>
      {gate.state === "failed" && <Fault title="Not good" detail={gate.words} />}
      {gate.kind === "pressure-test" ? (
        <TestForm {...given} />
      ) : gate.kind === "oil" ? (
        <OilForm {...given} />
      ) : gate.kind === "gauge" ? (
        <GaugeForm {...given} />
      ) : gate.kind === "blank-off" || gate.kind === "rig-proof" ? (
        <Bench {...given} />
      ) : (
        <ItemsForm {...given} />
      )}
      <Photos jobKey={props.jobKey} about={gate.kind === "oil" ? "oil" : `check:${gate.key}`} of={gate.kind === "oil" ? "the oil glass" : "it"} />
      <Skip gate={gate} prove={prove} set={set} />
    </div>
  );
}
