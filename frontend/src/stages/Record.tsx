import { Download } from "lucide-react";
import { useState } from "react";

import { useReadings, useSystem, useVerdict } from "../api/queries";
import type { CautionOut } from "../api/client";
import { hrefs } from "../api/commands";
import { AllPhotos } from "../record/AllPhotos";
import { SealCard, useSeal } from "../record/SealCard";
import { Visits } from "../record/Visits";
import { SignPad } from "../record/SignPad";
import { stamp } from "../lib/format";
import { TextField } from "../ui/Field";
import { Button } from "../ui/Button";
import { Tick } from "../ui/Tick";
import { Sheet, Tag } from "../ui/Sheet";
import { STAGE_NAMES } from "../shell/StageRail";
import type { StageProps } from "./types";
import { useUnits } from "../lib/units";
import { Waits } from "../ui/Waits";

type ClosingDoc = NonNullable<StageProps["job"]["closing"]>;

/** Signature and the papers. */
export function Record({ jobKey, job, editor, stages }: StageProps) {
  const u = useUnits();
  const verdict = useVerdict(jobKey, false);
  const readings = useReadings(jobKey);
  const closing = job.closing!;
  const set = (change: Partial<ClosingDoc>, at: "once" | "typing" = "typing") =>
    editor.edit((j) => ({ ...j, closing: { ...j.closing!, ...change } }), at);
  const missing = stages.filter((s) => !s.done && s.key !== "record");
  const count = (readings.data ?? []).reduce((n, s) => n + s.total, 0);
  const seal = useSeal(jobKey);
  const system = useSystem(jobKey, editor.version);
  const sealed = seal.data?.sealed_at !== null && seal.data?.sealed_at !== undefined;
  const cautions = system.data?.cautions ?? [];
  const seen = closing.acknowledged ?? [];
  // What an earlier version kept of a ticked caution is its text: the server knows it, until it is touched here.
  const [touched, setTouched] = useState<string[]>([]);
  const isTicked = (c: CautionOut) => seen.includes(c.key) || (c.ticked && !touched.includes(c.key));
  const tick = (c: CautionOut, on: boolean) => {
    setTouched((t) => [...t, c.key]);
    set({ acknowledged: on ? [...seen, c.key] : seen.filter((x) => x !== c.key) }, "once");
  };
  const failed = verdict.data?.criteria[0]?.passed === false;
  return (
    <div className="grid items-start gap-4 md:grid-cols-2">
      <div className="grid gap-4">
        <Sheet title="The papers" strong>
          {verdict.isPending || system.isPending || readings.isPending ? (
            <Waits>Laying the papers out…</Waits>
          ) : (
            <p className="mb-3">
              {u.whole(count)} readings. {verdict.data ? <b>{verdict.data.headline}.</b> : "No verdict yet."}
            </p>
          )}
          <ul className="grid list-none gap-3 p-0">
            {([
              { file: "record.pdf", label: "Report", note: "PDF, to hand over" },
              { file: "page.pdf", label: "One page", note: "PDF, the answer alone" },
              { file: "readings.csv", label: "Readings", note: "CSV, opens in any spreadsheet" },
              { file: "job.json", label: "Whole job", note: "JSON, can be opened again" },
              { file: "job.zip", label: "Whole job with photos", note: "ZIP, can be opened again" },
            ] as const).map((f) => (
              <li key={f.file}>
                <a
                  href={hrefs.jobFile(jobKey, f.file)}
                  download
                  className="flex min-h-14 items-center gap-3 rounded-[5px] border-2 border-ink px-4 hover:bg-green-wash"
                >
                  <Download size={20} aria-hidden />
                  <span className="casual font-bold">{f.label}</span>
                  <span className="text-soft">{f.note}</span>
                </a>
              </li>
            ))}
          </ul>
        </Sheet>
        <Sheet title="Cautions, read and kept to" fold="record-cautions">
          <ul className="list-none p-0">
            {cautions.map((c) => (
              <li key={c.key} className="border-t-2 border-rule py-1 first:border-0">
                <Tick label={c.words} on={isTicked(c)} disabled={sealed} onChange={(on) => tick(c, on)} />
              </li>
            ))}
          </ul>
        </Sheet>
        <Sheet title="Photos" fold="record-photos">
          <AllPhotos jobKey={jobKey} open={!sealed} />
        </Sheet>
      </div>
      <div className="grid gap-4">
        <Sheet title="Signature">
          {missing.length > 0 && (
            <ul className="mb-3 list-none p-0">
              {missing.map((s) => (
                <li key={s.key} className="mb-1 flex items-baseline gap-2">
                  <Tag tone="caution">{STAGE_NAMES[s.key]}</Tag> {s.missing}
                </li>
              ))}
            </ul>
          )}
          <div className="grid gap-3">
            {(failed || closing.deviation) && (
              <TextField
                label="Deviation from the standard, with its reason"
                long
                value={closing.deviation ?? ""}
                onChange={(v) => set({ deviation: v })}
              />
            )}
            <TextField label="Remarks" long value={closing.remarks ?? ""} onChange={(v) => set({ remarks: v })} />
            <SignPad value={closing.signature ?? ""} locked={sealed} onChange={(path) => set({ signature: path }, "once")} />
            {closing.signed_at ? (
              <div className="flex flex-wrap items-center gap-3 border-t-2 border-rule pt-3">
                <p className="mr-auto">
                  <span className="casual text-heading font-bold">
                    {closing.signed_by}
                  </span>
                  <br />
                  <span className="figure text-soft">{closing.signed_at}</span>
                </p>
                {!sealed && <Button onClick={() => set({ signed_by: "", signed_at: "" }, "once")}>Remove the signature</Button>}
              </div>
            ) : (
              <Sign
                name={job.party?.technician ?? ""}
                needsReason={failed && !closing.deviation?.trim()}
                onSign={(name) => set({ signed_by: name, signed_at: stamp(Date.now() / 1000) }, "once")}
              />
            )}
          </div>
        </Sheet>
        <SealCard jobKey={jobKey} name={closing.signed_by || job.party?.technician || ""} signed={Boolean(closing.signed_at)} version={editor.version} why={closing.deviation ?? ""} />
        {sealed && seal.data && <Visits jobKey={jobKey} name={closing.signed_by || job.party?.technician || ""} seal={seal.data} />}
      </div>
    </div>
  );
}

function Sign({ name, needsReason, onSign }: { name: string; needsReason: boolean; onSign: (name: string) => void }) {
  return (
    <form
      className="flex items-end gap-3 border-t-2 border-rule pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        const typed = String(new FormData(e.currentTarget).get("name") ?? "").trim();
        if (typed && !needsReason) onSign(typed);
      }}
    >
      <label className="min-w-0 flex-1">
        <span className="mb-1 block text-soft">Name of the technician</span>
        <input name="name" defaultValue={name} required className="min-h-12 w-full rounded-[5px] border-2 border-strong bg-sheet px-3" />
      </label>
      <Button
        type="submit"
        disabled={needsReason}
        title={needsReason ? "The chosen standard fails: give the reason for the deviation first" : undefined}
        kind="solid"
      >
        Sign
      </Button>
    </form>
  );
}
