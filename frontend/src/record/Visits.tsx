import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { SealOut, VisitIn, VisitOut } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options } from "../api/options";
import { settle } from "../api/settle";
import { stamp } from "../lib/format";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { NumberField, TextField } from "../ui/Field";
import { RunningFields } from "../ui/RunningFields";
import { Fault, Sheet } from "../ui/Sheet";
import { Photos } from "./Photos";

type Running = NonNullable<VisitIn["running"]>;

/** Follow-up visits: each an entry of its own, what was sealed stays as it is. */
export function Visits({ jobKey, name, seal }: { jobKey: string; name: string; seal: SealOut }) {
  const [open, setOpen] = useState(false);
  return (
    <Sheet title="Follow-up visits">
      {seal.visits.length === 0 && <p className="text-soft">None yet. What is read days later is added here, and breaks no seal.</p>}
      <ol aria-label="Follow-up visits" className="list-none p-0">
        {seal.visits.map((v, i) => (
          <li key={v.number} className="border-t-2 border-rule py-2 first:border-0">
            <Visit v={v} />
            <Photos jobKey={jobKey} about={`visit:${i + 1}`} of={`visit ${i + 1}`} open={false} />
          </li>
        ))}
      </ol>
      {open ? (
        <Write jobKey={jobKey} name={name} about={`visit:${seal.visits.length + 1}`} onDone={() => setOpen(false)} />
      ) : (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Add a visit
        </Button>
      )}
    </Sheet>
  );
}

function Visit({ v }: { v: VisitOut }) {
  const u = useUnits();
  const c = (x: number | null | undefined) => (x === null || x === undefined ? null : u.say("temperature", x));
  const kpa = (x: number | null | undefined) => (x === null || x === undefined ? null : u.say("gauge", 1000 * x));
  const r: Partial<Running> = v.running ?? {};
  const said = [
    ["set point", c(v.set_point_c)],
    ["outdoor", c(v.outdoor_c)],
    ["suction", kpa(r.suction_kpa)],
    ["suction line", c(r.suction_c)],
    ["liquid", kpa(r.liquid_kpa)],
    ["liquid line", c(r.liquid_c)],
    ["in", c(r.in_c)],
    ["out", c(r.out_c)],
  ].filter((x) => x[1] !== null);
  return (
    <>
      <b className="figure">{stamp(v.at)}</b>, {v.days < 1 ? "the same day" : `${Math.round(v.days)} ${Math.round(v.days) === 1 ? "day" : "days"} after`}, {v.by}
      <br />
      {said.map(([what, value]) => (
        <span key={what} className="mr-3">
          {what} <span className="figure">{value}</span>
        </span>
      ))}
      {v.note && <p>{v.note}</p>}
    </>
  );
}

const BLANK: VisitIn = { by: "", note: "", running: {} as Running };

function Write({ jobKey, name, about, onDone }: { jobKey: string; name: string; about: string; onDone: () => void }) {
  const client = useQueryClient();
  const [form, setForm] = useState<VisitIn>({ ...BLANK, by: name });
  const send = useMutation({
    mutationFn: () => commands.addVisit(jobKey, form),
    onSuccess: (out) => {
      settle(client, options.seal(jobKey), out);
      onDone();
    },
  });
  const set = (change: Partial<VisitIn>) => setForm((f) => ({ ...f, ...change }));
  const running: Partial<Running> = form.running ?? {};
  const run = (change: Partial<Running>) => set({ running: { ...(form.running ?? ({} as Running)), ...change } });
  const fault = send.error instanceof ApiError ? send.error.problem : null;
  return (
    <div className="mt-2 grid gap-3 border-t-2 border-rule pt-3">
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="Set point" dim="temperature" optional min={-90} max={120} value={form.set_point_c} onChange={(v) => set({ set_point_c: v })} />
        <NumberField label="Outdoor" dim="temperature" optional min={-60} max={70} value={form.outdoor_c} onChange={(v) => set({ outdoor_c: v })} />
        <RunningFields value={running} onChange={run} />
      </div>
      <TextField label="What was seen" long value={form.note ?? ""} onChange={(v) => set({ note: v })} />
      <TextField label="Name of who was there" value={form.by} onChange={(v) => set({ by: v })} />
      <Photos jobKey={jobKey} about={about} of="the visit" />
      <div className="flex gap-2">
        <Button kind="solid" disabled={!form.by.trim() || send.isPending} onClick={() => send.mutate()}>
          Add it
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
      {fault && <Fault title={fault.title} detail={fault.detail} faults={fault.faults} />}
    </div>
  );
}
