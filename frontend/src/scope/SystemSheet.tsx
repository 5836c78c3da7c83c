import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { ScopeDoc, SystemOut } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { refresh } from "../api/options";
import type { Editor } from "../api/editor";
import { useCatalogue, useOwnTemplates } from "../api/queries";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault, Sheet } from "../ui/Sheet";
import { Tabs } from "../ui/Tabs";
import { Links, Ports, Sections } from "./Rows";

export type Change = (change: Partial<ScopeDoc>, at?: "once" | "typing") => void;

/** The system as a graph: from a template, then section by section, link by link, port by port. */
export function SystemSheet({ jobKey, scope, set, editor, system }: { jobKey: string; scope: ScopeDoc; set: Change; editor: Editor; system: SystemOut | undefined }) {
  const { data: cat } = useCatalogue();
  const own = useOwnTemplates();
  const client = useQueryClient();
  const [keeping, setKeeping] = useState(false);
  const [name, setName] = useState("");
  const [fault, setFault] = useState<ApiError | null>(null);
  if (!cat) return null;
  const take = (value: string) =>
    void editor.ask("template", value.startsWith("own-") ? { own: Number(value.slice(4)) } : { key: value });
  const again = () => refresh(client, ["templates"]);
  const failed = (e: unknown) => e instanceof ApiError && setFault(e);
  const shut = (system?.links ?? []).filter((l) => l.valve && !l.open).length;
  return (
    <Sheet title="System">
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <div className="min-w-64 flex-1">
          <SelectField
            label="Start from"
            value={cat.templates.some((t) => t.value === scope.template) ? (scope.template ?? "") : ""}
            options={[
              ...cat.templates,
              ...(own.data ?? []).map((t) => ({ value: `own-${t.id}`, label: t.name, note: "your own" })),
            ]}
            onChange={take}
          />
        </div>
        <Button onClick={() => setKeeping(true)}>Save as a template</Button>
      </div>
      <Tabs
        label="Parts of the system"
        tabs={[
          { key: "sections", label: `Sections ${scope.sections?.length ?? 0}`, body: <Sections scope={scope} set={set} cat={cat} system={system} /> },
          { key: "links", label: `Connections: ${scope.links?.length ?? 0}${shut ? `, ${shut} closed` : ""}`, body: <Links scope={scope} set={set} cat={cat} system={system} /> },
          { key: "ports", label: `Ports ${scope.ports?.length ?? 0}`, body: <Ports scope={scope} set={set} cat={cat} /> },
        ]}
      />
      <Modal open={keeping} onClose={() => setKeeping(false)} title="Save this system as a template">
        <form
          onSubmit={(e) => {
            e.preventDefault();
            commands.keepTemplate(name, jobKey).then(() => {
              again();
              setKeeping(false);
              setName("");
            }, failed);
          }}
          className="flex items-end gap-3"
        >
          <div className="flex-1">
            <TextField label="Name" value={name} onChange={setName} />
          </div>
          <Button type="submit" kind="solid" disabled={!name.trim()}>
            Save
          </Button>
        </form>
        {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} />}
        {(own.data ?? []).length > 0 && (
          <ul className="mt-4 list-none p-0">
            {own.data!.map((t) => (
              <li key={t.id} className="flex items-center justify-between border-t border-rule">
                {t.name}
                <Button kind="stop" onClick={() => commands.dropTemplate(t.id).then(again, failed)}>
                  Delete
                </Button>
              </li>
            ))}
          </ul>
        )}
      </Modal>
    </Sheet>
  );
}
