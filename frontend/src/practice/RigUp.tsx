import { useState } from "react";

import type { RigChoice } from "../api/client";
import { useRigs } from "../api/practice";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";
import { isWhole, NOTHING, RigSlots } from "./RigSlots";

/** A rig put together from the van: a hook-up, and what goes into its places. */
export function RigUp({ runKey, open, onClose, onRig }: { runKey: string; open: boolean; onClose: () => void; onRig: (choice: RigChoice) => void }) {
  const rigs = useRigs(runKey, open);
  const [chosen, setChosen] = useState(NOTHING);
  return (
    <Modal open={open} onClose={onClose} title="Put a rig together" wide>
      {rigs.error && <Fault title="The van cannot be opened" detail={rigs.error.message} />}
      <div className="grid gap-3">
        <RigSlots rigs={rigs.data} chosen={chosen} onChange={setChosen} />
        <p className="text-soft">It takes six minutes. What was evacuated stands open to the air meanwhile, and is drawn anew.</p>
        <Button
          kind="solid"
          disabled={!isWhole(rigs.data, chosen)}
          onClick={() => {
            onRig(chosen);
            onClose();
          }}
        >
          Connect it
        </Button>
      </div>
    </Modal>
  );
}
