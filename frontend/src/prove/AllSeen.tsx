import { useState } from "react";

import type { GateOut, ProveOut } from "../api/client";
import type { StageProps } from "../stages/types";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { TextField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Tick } from "../ui/Tick";
import { NOTHING_READ, ReadTogether, toBeRead, withRead, type Figures } from "./ReadTogether";
import { gateOf, type ProveDoc } from "./types";

/** Checks that are seen with the eyes, and want no figure. */
const SEEN = ["items", "sections", "sweep"];

export const toBeSeen = (gates: GateOut[]): GateOut[] => gates.filter((g) => g.state === "open" && SEEN.includes(g.kind) && g.items.length > 0);

/** What is logged of each check: its things but for those that were not seen, and how it was seen, said once. */
export function seenTogether(gates: GateOut[], prove: ProveDoc, not: ReadonlySet<string>, which: Record<string, string>, note: string): ProveDoc["gates"] {
  const found = { ...prove.gates };
  for (const g of gates) {
    const one = which[g.key] ?? g.proposed;
    const items = g.any_of ? (one ? [one] : []) : g.items.map((i) => i.value).filter((i) => !not.has(`${g.key} ${i}`));
    if (items.length === 0) continue;
    const doc = gateOf(prove, g.key);
    found[g.key] = { ...doc, state: "open", items: [...new Set([...(doc.items ?? []), ...items])], note: note.trim() || (doc.note ?? "") };
  }
  return found;
}

/** All the checks answered at once: what is seen, except what was not; what is read; the evidence once. */
export function AllSeen({ gates, proof, job, editor }: Pick<StageProps, "job" | "editor"> & { gates: GateOut[]; proof: ProveOut }) {
  const [open, setOpen] = useState(false);
  const left = toBeSeen(gates);
  const read = toBeRead(gates);
  if (left.length + read.length < 2) return null;
  return (
    <>
      <Button className="mb-2" onClick={() => setOpen(true)}>
        All seen, except…
      </Button>
      <Modal open={open} onClose={() => setOpen(false)} title="Seen and read, all together" wide>
        <Together left={left} read={read} proof={proof} job={job} editor={editor} onDone={() => setOpen(false)} />
      </Modal>
    </>
  );
}

function Together({ left, read, proof, job, editor, onDone }: Pick<StageProps, "job" | "editor"> & { left: GateOut[]; read: GateOut[]; proof: ProveOut; onDone: () => void }) {
  const [not, setNot] = useState<ReadonlySet<string>>(new Set());
  const [which, setWhich] = useState<Record<string, string>>({});
  const [figures, setFigures] = useState<Figures>(() => ({ ...NOTHING_READ, startC: job.scope?.ambient_c ?? null, endC: job.scope?.ambient_c ?? null }));
  const [note, setNote] = useState("");
  const turn = (name: string, on: boolean) => setNot((old) => new Set(on ? [...old].filter((x) => x !== name) : [...old, name]));
  const log = () => {
    editor.edit((j) => withRead({ ...j, prove: { ...j.prove!, gates: seenTogether(left, j.prove!, not, which, note) } }, read, proof, figures));
    onDone();
  };
  return (
    <>
      <p className="mb-3 text-soft">Take the mark off what you have not seen. It stays open, and so does a choice that is not made or a figure that was not read.</p>
      <div className="grid gap-4">
        {left.map((g) => (
          <section key={g.key} aria-label={g.title}>
            {g.any_of ? (
              <Segments label={g.title} value={which[g.key] ?? g.proposed} options={g.items} onChange={(v) => setWhich((old) => ({ ...old, [g.key]: v }))} />
            ) : (
              <>
                <p className="mb-1 text-soft">{g.title}</p>
                <ul className="grid list-none gap-x-4 p-0 md:grid-cols-2">
                  {g.items.map((i) => (
                    <li key={i.value}>
                      <Tick label={i.label} on={!not.has(`${g.key} ${i.value}`)} onChange={(v) => turn(`${g.key} ${i.value}`, v)} />
                    </li>
                  ))}
                </ul>
              </>
            )}
          </section>
        ))}
        <ReadTogether gates={read} proof={proof} figures={figures} onChange={(change) => setFigures((old) => ({ ...old, ...change }))} />
        <TextField label="Evidence: how it was seen, and by whom" value={note} onChange={setNote} />
        <Button kind="solid" className="justify-self-start" onClick={log}>
          Log them
        </Button>
      </div>
    </>
  );
}
