import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { commands } from "../api/commands";
import { refresh } from "../api/options";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";

const KINDS = ["hose", "pump", "gauge", "tool", "manifold", "tee", "adapter", "scale", "cord", "cylinder", "core"];

/** A part put into the van. What it measures is filled in where it is used in a rig. */
export function AddPart() {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState("hose");
  const [name, setName] = useState("");
  const add = useMutation({
    mutationFn: () => commands.addKit(kind, name),
    onSuccess: () => {
      setName("");
      setOpen(false);
      refresh(client, ["kit"]);
    },
  });
  if (!open)
    return (
      <Button className="mb-4" onClick={() => setOpen(true)}>
        Add a part
      </Button>
    );
  return (
    <Sheet title="Add a part" className="mb-4">
      <div className="grid items-end gap-3 md:grid-cols-[200px_1fr_auto_auto]">
        <SelectField label="Kind" value={kind} options={KINDS.map((k) => ({ value: k, label: k }))} onChange={setKind} />
        <TextField label="Name, as written on it" value={name} onChange={setName} />
        <Button kind="solid" disabled={!name.trim() || add.isPending} onClick={() => add.mutate()}>
          Add it
        </Button>
        <Button kind="quiet" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
      {add.error && (
        <div className="mt-2">
          <Fault title="Not added" detail={add.error.message} />
        </div>
      )}
    </Sheet>
  );
}
