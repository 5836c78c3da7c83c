import { useState } from "react";

import type { RunOut } from "../api/client";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Sheet } from "../ui/Sheet";
import { capital } from "../lib/capital";

/** What a person says of it: what is the matter, the verdict of a hold, the end. Hints, which cost. */
export function Calls({ run, busy, onDo }: { run: RunOut; busy: boolean; onDo: (kind: string) => void }) {
  const [cause, setCause] = useState("");
  const [verdict, setVerdict] = useState("");
  const [end, setEnd] = useState("");
  const off = busy || run.ended !== "";
  const asked = run.done.filter((d) => d.kind.startsWith("hint:"));
  const step = Math.min(run.hints.length, asked.length + 1);
  return (
    <Sheet title="Your call">
      <div className="grid gap-3">
        <Call label="What is the matter" value={cause} onChange={setCause} options={run.causes} button="Name it" disabled={off || !cause} onCall={() => onDo(`cause:${cause}`)} />
        <Call label="Verdict of this hold" value={verdict} onChange={setVerdict} options={run.verdicts} button="Say so" disabled={off || !verdict} onCall={() => onDo(`verdict:${verdict}`)} />
        <Call label="End of the job" value={end} onChange={setEnd} options={run.ends} button="End" disabled={off || !end} onCall={() => onDo(`end:${end}`)} />
        {run.hints.length > 0 && <div className="border-t-2 border-rule pt-3">
          <Button disabled={off} onClick={() => onDo(`hint:${step}`)}>
            A hint: {run.hints[step - 1]?.label.toLowerCase()} <span className="figure font-normal">{run.hints[step - 1]?.note}</span>
          </Button>
          {asked.map((d, i) => (
            <p key={i} className="mt-2 border-l-4 border-ochre pl-3">
              {d.showed}
            </p>
          ))}
        </div>}
      </div>
    </Sheet>
  );
}

function Call({
  label,
  value,
  onChange,
  options,
  button,
  disabled,
  onCall,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  options: RunOut["causes"];
  button: string;
  disabled: boolean;
  onCall: () => void;
}) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
      <SelectField label={label} value={value} onChange={onChange} options={options.map((o) => ({ value: o.value, label: capital(o.label) }))} />
      <Button disabled={disabled} onClick={onCall}>
        {button}
      </Button>
    </div>
  );
}
