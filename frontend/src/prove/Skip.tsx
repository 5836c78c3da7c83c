import { useState } from "react";

import type { GateOut } from "../api/client";
import { focused } from "../lib/focus";
import { Button } from "../ui/Button";
import { gateOf, type ProveDoc } from "./types";

/** A gate may be passed over, but its reason goes on the record. */
export function Skip({ gate, prove, set }: { gate: GateOut; prove: ProveDoc; set: (change: Partial<ProveDoc>) => void }) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const doc = gateOf(prove, gate.key);
  const put = (state: "open" | "skipped", note: string) => set({ gates: { ...prove.gates, [gate.key]: { ...doc, state, note } } });
  if (gate.state === "skipped")
    return (
      <p className="flex items-center gap-3 border-l-4 border-ochre pl-3">
        <span className="flex-1">Skipped: {gate.words}</span>
        <Button kind="quiet" onClick={() => put("open", "")}>
          Check it after all
        </Button>
      </p>
    );
  if (!asking)
    return (
      <Button kind="quiet" className="justify-self-start font-normal" onClick={() => setAsking(true)}>
        Skip it, with a reason
      </Button>
    );
  return (
    <form
      className="flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!reason.trim()) return;
        put("skipped", reason.trim());
        setAsking(false);
      }}
    >
      <input
        ref={focused}
        aria-label={`Reason for skipping: ${gate.title}`}
        placeholder="Why it is skipped: it is recorded"
        className="min-h-12 min-w-0 flex-1 rounded-[5px] border-2 border-ink bg-sheet px-3"
        value={reason}
        maxLength={200}
        onChange={(e) => setReason(e.target.value)}
      />
      <Button type="submit" kind="solid">
        Skip it
      </Button>
    </form>
  );
}
