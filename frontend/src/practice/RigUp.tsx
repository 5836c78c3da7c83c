import { useState } from "react";

import type { RigChoice } from "../api/client";
import { useRigs } from "../api/practice";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";
import { capital } from "../lib/capital";

/** A rig put together from the van: a hook-up, and what goes into its places. */
export function RigUp({ runKey, open, onClose, onRig }: { runKey: string; open: boolean; onClose: () => void; onRig: (choice: RigChoice) => void }) {
  const rigs = useRigs(runKey, open);
  const [pattern, setPattern] = useState("");
  const [parts, setParts] = useState<Record<string, number>>({});
  const chosen = rigs.data?.rigs.find((r) => r.pattern === pattern);
  const taken = (slot: string) => Object.entries(parts).filter(([s]) => s !== slot).map(([, n]) => n);
  const missing = chosen?.slots.some((s) => parts[s.slot] === undefined) ?? true;
  return (
    <Modal open={open} onClose={onClose} title="Put a rig together" wide>
      {rigs.error && <Fault title="The van cannot be opened" detail={rigs.error.message} />}
      <div className="grid gap-3">
        <SelectField
          label="Setup"
          value={pattern}
          onChange={(v) => {
            setPattern(v);
            setParts({});
          }}
          options={(rigs.data?.rigs ?? []).map((r) => ({ value: r.pattern, label: r.name }))}
        />
        {chosen && <p className="text-soft">{chosen.words}</p>}
        <div className="grid gap-3 sm:grid-cols-2">
          {chosen?.slots.map((s) => (
            <SelectField
              key={s.slot}
              label={capital(s.where)}
              value={parts[s.slot] === undefined ? "" : String(parts[s.slot])}
              onChange={(v) => setParts((p) => ({ ...p, [s.slot]: Number(v) }))}
              options={(rigs.data?.van ?? []).filter((k) => k.kind === s.kind && !taken(s.slot).includes(k.id)).map((k) => ({ value: String(k.id), label: k.name }))}
            />
          ))}
        </div>
        <p className="text-soft">It takes six minutes. What was evacuated stands open to the air meanwhile, and is drawn anew.</p>
        <Button
          kind="solid"
          disabled={missing}
          onClick={() => {
            onRig({ pattern, parts });
            onClose();
          }}
        >
          Connect it
        </Button>
      </div>
    </Modal>
  );
}
