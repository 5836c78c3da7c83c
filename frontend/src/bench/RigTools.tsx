import { Download, Plus, Search, Upload } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";

import type { BestOut, Job, PlanOut } from "../api/client";
import { options } from "../api/options";
import { commands, hrefs } from "../api/commands";
import { ApiError } from "../api/client";
import type { Editor } from "../api/editor";
import { usePatterns } from "../api/queries";
import { settle } from "../api/settle";
import { useQueryClient } from "@tanstack/react-query";
import { span } from "../lib/format";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";

const ITEM = "flex min-h-12 cursor-pointer items-center gap-2 rounded-[4px] px-3 outline-none data-highlighted:bg-green-wash";

/** Starting points, additions, the best rig of the van, and the rig's files. */
export function RigTools({ jobKey, job, editor, plan, onPart }: { jobKey: string; job: Job; editor: Editor; plan: PlanOut | undefined; onPart: (p: string | null) => void }) {
  const patterns = usePatterns(jobKey, editor.version);
  const client = useQueryClient();
  const [best, setBest] = useState<BestOut | null>(null);
  const [fault, setFault] = useState<ApiError | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const ask = (body: Record<string, unknown>) => editor.ask("rig", body);
  const free = plan?.slots[0]?.free_ports ?? [];
  const hasGauge = (job.rig?.parts ?? []).some((p) => p.kind === "gauge");
  const search = () =>
    client.fetchQuery(options.best(jobKey)).then(setBest, (e: unknown) => e instanceof ApiError && setFault(e));
  const read = (chosen: File) => {
    commands.takeRigFile(jobKey, chosen).then(
      (j) => {
        settle(client, options.job(jobKey), j);
        setFault(null);
      },
      (e: unknown) => e instanceof ApiError && setFault(e),
    );
  };
  return (
    <>
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-60 flex-1">
          <SelectField
            label="Setup"
            value={job.rig?.pattern ?? ""}
            options={(patterns.data ?? [])
              .filter((p) => p.fits)
              .map((p) => ({ value: p.key, label: p.name, note: p.words }))}
            onChange={(v) => {
              onPart(null);
              void ask({ op: "pattern", part: v });
            }}
            placeholder={job.rig?.name || "your own"}
          />
        </div>
        {!job.rig?.pattern && (
          <div className="w-56">
            <TextField
              label="Name of this setup"
              value={job.rig?.name ?? ""}
              onChange={(v) => editor.edit((j) => ({ ...j, rig: { ...j.rig, name: v } }), "typing")}
            />
          </div>
        )}
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="flex items-center gap-2">
              <Plus size={18} aria-hidden /> Add
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" sideOffset={4} className="sheet z-50 min-w-72 p-1">
              {free.map((p) => (
                <DropdownMenu.Item key={p.value} className={ITEM} onSelect={() => void ask({ op: "way", port: p.value })}>
                  A hose and tool to the {p.label}
                </DropdownMenu.Item>
              ))}
              {free.map((p) => (
                <DropdownMenu.Item key={`t-${p.value}`} className={ITEM} onSelect={() => void ask({ op: "add", port: p.value, fields: { kind: "tool", fits: p.note } })}>
                  A tool alone on the {p.label}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Item className={ITEM} onSelect={() => void ask({ op: "add", on: "pump", at: "side", fields: { kind: "gauge" } })}>
                {hasGauge ? "A second gauge, at the pump" : "A gauge, at the pump"}
              </DropdownMenu.Item>
              {free.length === 0 && <p className="px-3 py-2 text-soft">Every port of this system is taken.</p>}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <Button onClick={search} className="flex items-center gap-2">
          <Search size={18} aria-hidden /> Best from the van
        </Button>
        <input ref={file} type="file" accept=".json,application/json" hidden onChange={(e) => e.target.files?.[0] && read(e.target.files[0])} />
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button aria-label="Files of the rig">Files</Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="sheet z-50 min-w-60 p-1">
              <DropdownMenu.Item className={ITEM} asChild>
                <a href={hrefs.jobFile(jobKey, "rig.json")} download>
                  <Download size={18} aria-hidden /> Rig as JSON
                </a>
              </DropdownMenu.Item>
              <DropdownMenu.Item className={ITEM} asChild>
                <a href={hrefs.jobFile(jobKey, "rig.svg")} download>
                  <Download size={18} aria-hidden /> Rig line as SVG
                </a>
              </DropdownMenu.Item>
              <DropdownMenu.Item className={ITEM} onSelect={() => file.current?.click()}>
                <Upload size={18} aria-hidden /> Read a rig from JSON
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />}
      <Modal open={best !== null} onClose={() => setBest(null)} title="Best from the van" wide>
        {best && (
          <>
            <p className="text-lead">{best.reason}</p>
            {best.missing && <p className="mt-2 border-l-4 border-ochre pl-3">{best.missing}</p>}
            <p className="mt-2 text-soft">
              {best.tried} rigs tried: every setup this system has ports for, with every pump.
              {plan?.time_to_target_s && best.seconds ? ` The rig as it stands takes ${span(plan.time_to_target_s.value)}.` : ""}
            </p>
            <div className="mt-4 flex gap-3">
              {best.rig && (
                <Button
                  kind="solid"
                  className="flex-1"
                  onClick={() => editor.ask("apply", { key: "best" }).then(() => setBest(null))}
                >
                  Use it
                </Button>
              )}
              <Button onClick={() => setBest(null)}>Cancel</Button>
            </div>
          </>
        )}
      </Modal>
    </>
  );
}
