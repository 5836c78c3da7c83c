import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";

import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { settle } from "../api/settle";
import { stamp } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { Button } from "../ui/Button";
import { TextField } from "../ui/Field";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

export const useSeal = (jobKey: string) => useQuery(options.seal(jobKey));

/** The record closed for good: whether it is still what was sealed, and its amendments. */
export function SealCard({ jobKey, name, signed, version, why }: { jobKey: string; name: string; signed: boolean; version: number; why: string }) {
  const client = useQueryClient();
  const seal = useSeal(jobKey);
  // What is mended on the sheet is no deviation any more.
  useEffect(() => refresh(client, ["seal"], jobKey), [client, jobKey, version]);
  const [shared, setShared] = useState("");
  const [typed, setReasons] = useState<Record<string, string>>({});
  // Why the standard was not kept to was said beside the signature: it is not asked for twice.
  const reasons: Record<string, string> = why ? { standard: why, ...typed } : typed;
  const close = useMutation({
    mutationFn: () => commands.seal(jobKey, name, Object.fromEntries((seal.data?.deviations ?? []).map((d) => [d.key, reasons[d.key] ?? ""]))),
    onSuccess: (out) => {
      settle(client, options.seal(jobKey), out);
      void client.invalidateQueries();
    },
  });
  const s = seal.data;
  if (!s) return seal.isPending && <Waits />;
  const bare = s.deviations.filter((d) => (reasons[d.key] ?? "").trim().length < 3);
  if (s.sealed_at === null)
    return (
      <Sheet title="Close it">
        <p className="font-bold" data-testid="sealing-what">
          {s.what}
        </p>
        <p className="mt-1">Closing seals this for good. What is wrong after that is put right by an amendment.</p>
        {s.deviations.length > 0 && (
          <>
            <p className="mt-3">Mend each, or say why. It stands first on the report.</p>
            <Many count={s.deviations.length}>
              <ol aria-label="Deviations" className="mt-1 grid list-none gap-3 p-0">
                {s.deviations.map((d) => (
                  <li key={d.key} className="border-t-2 border-rule pt-2">
                    <TextField label={d.words} hint="reason" value={reasons[d.key] ?? ""} onChange={(v) => setReasons((r) => ({ ...r, [d.key]: v }))} />
                  </li>
                ))}
              </ol>
            </Many>
            {bare.length > 1 && (
              <div className="mt-3 grid gap-2 border-t-2 border-rule pt-2">
                <TextField label={`One reason for the ${bare.length} that have none`} value={shared} onChange={setShared} />
                <Button disabled={shared.trim().length < 3} onClick={() => setReasons((r) => ({ ...r, ...Object.fromEntries(bare.map((d) => [d.key, shared])) }))}>
                  Use it for all of them
                </Button>
              </div>
            )}
          </>
        )}
        <Button kind="solid" className="mt-3" disabled={!signed || close.isPending || bare.length > 0} onClick={() => close.mutate()}>
          Close and seal
        </Button>
        {!signed && <p className="mt-2 text-soft">Sign first.</p>}
        {bare.length > 0 && <p className="mt-2 text-soft">{bare.length === 1 ? "One deviation has" : `${bare.length} deviations have`} no reason yet.</p>}
        {close.error && (
          <div className="mt-2">
            <Fault title="Not sealed" detail={close.error.message} />
          </div>
        )}
      </Sheet>
    );
  return (
    <Sheet title="Sealed" aside={<Tag tone={s.whole ? "pass" : "stop"}>{s.whole ? "whole" : "broken"}</Tag>} strong>
      <p>
        <span className="figure font-bold">{stamp(s.sealed_at)}</span> by {s.by}, {s.entries} entries.
      </p>
      <p className="figure mt-1 text-note break-all text-soft">{s.hash}</p>
      {s.signers.map(([firm, print]) => (
        <p key={print} className="mt-1">
          Signed by {firm || "the firm"}, key <span className="figure text-note">{print}</span>
        </p>
      ))}
      {s.faults.map((f) => (
        <p key={f} role="alert" className="mt-2 border-l-4 border-stop pl-3">
          {f}
        </p>
      ))}
      {s.deviations.length > 0 && (
        <ul aria-label="Deviations" className="mt-3 list-none p-0">
          {s.deviations.map((d) => (
            <li key={d.key} className="border-t-2 border-rule py-2">
              <b>{d.words}</b>
              <br />
              <span className="text-soft">{d.reason}</span>
            </li>
          ))}
        </ul>
      )}
      <ul aria-label="Amendments" className="mt-3 list-none p-0">
        {s.amendments.map((a) => (
          <li key={a.number} className="border-t-2 border-rule py-2">
            <b>{a.what}</b>: {a.before && <s>{a.before}</s>} <b>{a.after}</b>
            <br />
            <span className="text-soft">
              {a.reason}. {a.by}, <span className="figure">{stamp(a.at)}</span>
            </span>
          </li>
        ))}
      </ul>
      <Amend jobKey={jobKey} name={name} />
    </Sheet>
  );
}

/** A few stand as they are; on a phone more than these are shown when they are asked for. */
function Many({ count, children }: { count: number; children: ReactNode }) {
  const narrow = useNarrow();
  if (!narrow || count <= 2) return <>{children}</>;
  return (
    <details>
      <summary className="cursor-pointer py-3 font-bold">Each of the {count}, with its own reason</summary>
      {children}
    </details>
  );
}

function Amend({ jobKey, name }: { jobKey: string; name: string }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [form, setForm] = useState({ by: name, what: "", before: "", after: "", reason: "" });
  const send = useMutation({
    mutationFn: () => commands.amend(jobKey, form),
    onSuccess: (out) => {
      settle(client, options.seal(jobKey), out);
      setOpen(false);
      setForm({ by: name, what: "", before: "", after: "", reason: "" });
    },
  });
  const set = (change: Partial<typeof form>) => setForm({ ...form, ...change });
  if (!open)
    return (
      <Button className="mt-2" onClick={() => setOpen(true)}>
        Write an amendment
      </Button>
    );
  const fault = send.error instanceof ApiError ? send.error.problem : null;
  return (
    <div className="mt-2 grid gap-3 border-t-2 border-rule pt-3">
      <TextField label="What is put right" value={form.what} onChange={(v) => set({ what: v })} />
      <TextField label="It said" value={form.before} onChange={(v) => set({ before: v })} />
      <TextField label="It should say" value={form.after} onChange={(v) => set({ after: v })} />
      <TextField label="Why" long value={form.reason} onChange={(v) => set({ reason: v })} />
      <TextField label="Your name" value={form.by} onChange={(v) => set({ by: v })} />
      <div className="flex gap-2">
        <Button kind="solid" disabled={!form.by.trim() || !form.what.trim() || !form.after.trim() || form.reason.trim().length < 3 || send.isPending} onClick={() => send.mutate()}>
          Add it
        </Button>
        <Button kind="quiet" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
      {fault && <Fault title={fault.title} detail={fault.detail} faults={fault.faults} />}
    </div>
  );
}
