import type { RunOut } from "../api/client";
import { capital } from "../lib/capital";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { Facts } from "../ui/Facts";
import { Segments } from "../ui/Segments";
import { Sheet } from "../ui/Sheet";
import { Tick } from "../ui/Tick";
import { BAD } from "./Wrong";

type Truth = NonNullable<RunOut["truth"]>;

/** What is so in a sandbox at this moment. */
export function WhatIsSo({ truth }: { truth: Truth }) {
  const u = useUnits();
  const pressure = (pa: number | null | undefined) => (pa === null || pa === undefined ? "charge is in" : u.say("pressure", pa));
  return (
    <Sheet title="What is so" aside="counts for nothing">
      <Facts
        rows={[
          ["At the gauge", pressure(truth.true_pa)],
          [`Worst spot${truth.worst ? `, ${truth.worst}` : ""}`, pressure(truth.worst_pa)],
          ["Free water", u.grams(1000 * truth.water_kg)],
          ["The hold", truth.truly ? capital(truth.truly) : "not isolated"],
        ]}
      />
    </Sheet>
  );
}

/** Everything that can be put wrong in a sandbox, or right again, while it goes on. */
export function PutWrong({ truth, busy, onDo, onDone }: { truth: Truth; busy: boolean; onDo: (kind: string) => void; onDone: () => void }) {
  const bad = new Map(truth.wrong.map((w) => [w.key, w.severity]));
  return (
    <Sheet title="Put wrong, or right again">
      <fieldset>
        <legend className="sr-only">What is wrong</legend>
        <ul className="grid max-h-[50vh] list-none gap-1 overflow-auto p-0">
          {truth.possible.map((f) => (
            <li key={f.value} className="border-b border-rule">
              <Tick label={f.label} disabled={busy} on={bad.has(f.value)} onChange={(on) => onDo(`wrong:${f.value}=${on ? 0 : "off"}`)} />
              {bad.has(f.value) && <Segments label={`How bad: ${f.label}`} value={String(bad.get(f.value))} onChange={(v) => onDo(`wrong:${f.value}=${v}`)} options={BAD} />}
            </li>
          ))}
        </ul>
      </fieldset>
      <Button className="mt-3" onClick={onDone}>
        Done with it
      </Button>
    </Sheet>
  );
}
