import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import type { Job, Scenario } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options } from "../api/options";
import { useCatalogue, useYard } from "../api/queries";
import { Button } from "../ui/Button";
import { Tick } from "../ui/Tick";
import { Segments, SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Fault } from "../ui/Sheet";

const NEW = "a new sheet: ";
const BAD = [
  { value: "-1", label: "mild" },
  { value: "0", label: "usual" },
  { value: "1", label: "bad" },
];

/** A trainer's scenario: a sheet to start from, what is hidden in it, what the learner is told. */
export function Compose({ onDone }: { onDone: () => void }) {
  const catalogue = useCatalogue();
  const yard = useYard();
  const [title, setTitle] = useState("");
  const [brief, setBrief] = useState("");
  const [lesson, setLesson] = useState("");
  const [level, setLevel] = useState("3");
  const [from, setFrom] = useState(`${NEW}cooler`);
  const [rigged, setRigged] = useState("yes");
  const [started, setStarted] = useState("no");
  const [faults, setFaults] = useState<Record<string, number>>({});
  const [shut, setShut] = useState<string[]>([]);
  const [fault, setFault] = useState<ApiError | null>(null);
  const fresh = from.startsWith(NEW) ? ({ scope: { template: from.slice(NEW.length), condition: "new-dry" } } as unknown as Job) : null;
  const sheet = useQuery(options.composeSheet(from, fresh));
  const possible = useQuery(options.possible(from, sheet.data));
  const sources = useMemo(
    () => [
      ...(catalogue.data?.templates ?? []).map((t) => ({ value: `${NEW}${t.value}`, label: t.label })),
      ...(yard.data ?? []).map((r) => ({ value: r.key, label: `${r.customer || r.title}${r.unit ? `, ${r.unit}` : ""} (a job of yours)` })),
    ],
    [catalogue.data, yard.data],
  );
  const save = () => {
    const body = {
      key: title.toLowerCase().replace(/[^a-z0-9]+/g, "-").replace(/^-+|-+$/g, "").slice(0, 36) || "own",
      title: title || "A scenario of mine",
      brief,
      lesson,
      level: Number(level),
      rigged: rigged === "yes",
      sheet: sheet.data,
      before: started === "no" ? [] : [...(started === "ballast" ? [{ kind: "ballast-open", at_s: 0 }] : []), { kind: "pump-on", at_s: 0 }],
      arrive_s: started === "no" ? 0 : 900,
      hidden: { seed: Math.floor(Math.random() * 1e6), faults: Object.entries(faults).map(([key, severity]) => ({ key, severity })), shut },
    } as unknown as Scenario;
    commands.keepScenario(body).then(onDone, (e: unknown) => e instanceof ApiError && setFault(e));
  };
  return (
    <div className="grid gap-3">
      {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />}
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField label="Title" value={title} onChange={setTitle} />
        <SelectField
          label="System and rig from"
          value={from}
          onChange={(v) => {
            setFrom(v);
            setFaults({});
            setShut([]);
          }}
          options={sources}
        />
      </div>
      <TextField label="What the learner is told" value={brief} onChange={setBrief} long />
      <TextField label="What is said in the debrief" value={lesson} onChange={setLesson} long />
      <div className="grid gap-3 sm:grid-cols-2">
        <Segments label="How hard" value={level} onChange={setLevel} options={["1", "2", "3", "4", "5"].map((n) => ({ value: n, label: n }))} />
        <Segments
          label="The rig"
          value={rigged}
          onChange={setRigged}
          options={[
            { value: "yes", label: "stands on it" },
            { value: "no", label: "the learner's own" },
          ]}
        />
      </div>
      <Segments
        label="The pump"
        value={started}
        onChange={setStarted}
        options={[
          { value: "no", label: "not started" },
          { value: "running", label: "runs for 15 min" },
          { value: "ballast", label: "and its ballast forgotten" },
        ]}
      />
      {possible.error && <Fault title="Nothing can be hidden in this sheet" detail={possible.error.message} />}
      <fieldset>
        <legend className="mb-1 text-soft">What is wrong with it</legend>
        <ul className="grid max-h-64 list-none gap-1 overflow-auto p-0">
          {(possible.data?.faults ?? []).map((f) => (
            <li key={f.value} className="flex flex-wrap items-center gap-2 border-b border-rule">
              <Tick
                label={f.label}
                on={f.value in faults}
                onChange={(on) =>
                  setFaults((old) => {
                    const rest = Object.fromEntries(Object.entries(old).filter(([k]) => k !== f.value));
                    return on ? { ...rest, [f.value]: 0 } : rest;
                  })
                }
              />
              {f.value in faults && (
                <Segments label="how bad" value={String(faults[f.value])} onChange={(v) => setFaults((old) => ({ ...old, [f.value]: Number(v) }))} options={BAD} />
              )}
            </li>
          ))}
          {(possible.data?.links ?? []).map((x) => (
            <li key={x.value}>
              <Tick
                label={`the ${x.label} (${x.note.replaceAll("-", " ")}) is really closed`}
                on={shut.includes(x.value)}
                onChange={(on) => setShut((old) => (on ? [...old, x.value] : old.filter((n) => n !== x.value)))}
              />
            </li>
          ))}
        </ul>
      </fieldset>
      <Button kind="solid" disabled={!sheet.data || !!possible.error} onClick={save}>
        Save
      </Button>
    </div>
  );
}
