import { useState } from "react";

import type { Alarm } from "../api/client";
import type { Editor } from "../api/editor";
import { useAwake } from "../lib/awake";
import { MICRON_PA } from "../lib/format";
import { askLeave, useAllowed } from "../lib/notify";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { NumberField } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

type Kind = Alarm["kind"];
const KINDS: { value: Kind; label: string }[] = [
  { value: "under", label: "Gauge under" },
  { value: "over", label: "Gauge back above" },
  { value: "slower", label: "Falls slower than" },
  { value: "after", label: "Time since the pump started" },
  { value: "due", label: "The next step is due" },
  { value: "stale", label: "The gauge falls silent" },
];

/** The alarms of this job, and whether the screen stays on. */
export function AlarmSheet({ editor, running }: { editor: Editor; running: boolean }) {
  const alarms = editor.job?.alarms ?? [];
  const u = useUnits();
  const [awake, setAwake] = useState(true);
  const state = useAwake(awake && running);
  const set = (change: (old: Alarm[]) => Alarm[]) => editor.edit((j) => ({ ...j, alarms: change(j.alarms ?? []) }));
  const words = (a: Alarm) => {
    const kind = KINDS.find((k) => k.value === a.kind)!.label;
    if (a.micron) return `${kind} ${u.say("pressure", a.micron * MICRON_PA)}`;
    if (a.rate) return `${kind} ${u.rate(-a.rate).replace(/^[−-]/, "")}`;
    if (a.minutes) return `${kind}: ${u.whole(a.minutes)} min`;
    return kind;
  };
  return (
    <Sheet title="Alarms" fold="draw-alarms" className="md:col-span-2">
      <div className="grid gap-x-8 gap-y-3 md:grid-cols-2">
        <div>
          <ul className="grid list-none gap-1 p-0">
            {alarms.map((a, i) => (
              <li key={i} className="flex min-h-11 items-center justify-between gap-3 border-b border-rule">
                <span>{words(a)}</span>
                <Button kind="quiet" onClick={() => set((old) => old.filter((_, k) => k !== i))} aria-label={`Remove: ${words(a)}`}>
                  Remove
                </Button>
              </li>
            ))}
            {alarms.length === 0 && <li className="text-soft">None: nothing will call.</li>}
          </ul>
          <div className="mt-3 flex flex-wrap items-center gap-3">
            <Button kind={awake ? "solid" : "line"} aria-pressed={awake} onClick={() => setAwake((a) => !a)}>
              Keep this screen on
            </Button>
            <Leave />
            <span className="text-soft">{awake && state === "no" ? "this browser lets it sleep" : "while the draw runs"}</span>
          </div>
        </div>
        <NewAlarm onAdd={(a) => set((old) => [...old.filter((x) => words(x) !== words(a)), a])} />
      </div>
    </Sheet>
  );
}

/** Whether the device itself may tell of alarms. */
function Leave() {
  const now = useAllowed();
  if (now === "ask") return <Button onClick={() => void askLeave()}>Let this device tell of alarms</Button>;
  const words = { yes: "This device tells of alarms while the page is behind others.", no: "This browser has been told not to tell of alarms.", cannot: "" }[now];
  return words ? <span className="text-soft">{words}</span> : null;
}

function NewAlarm({ onAdd }: { onAdd: (a: Alarm) => void }) {
  const [kind, setKind] = useState<Kind>("under");
  const [value, setValue] = useState<Record<Kind, number | null>>({ under: 500, over: 1000, slower: 0.5, after: 45, due: null, stale: null });
  const figure = value[kind];
  const put = (v: number | null) => setValue((old) => ({ ...old, [kind]: v }));
  const ready = kind === "due" || kind === "stale" || (figure !== null && figure > 0);
  const made = (): Alarm => {
    if (kind === "under" || kind === "over") return { kind, micron: figure };
    if (kind === "slower") return { kind, rate: figure };
    return kind === "after" ? { kind, minutes: figure } : { kind };
  };
  return (
    <div className="grid content-start gap-3">
      <SelectField label="Call when" value={kind} onChange={setKind} options={KINDS} />
      {(kind === "under" || kind === "over") && <NumberField key={kind} label="Level" dim="pressure" per={MICRON_PA} value={figure} onChange={put} min={1} max={760_000} />}
      {kind === "slower" && <NumberField label="Rate" dim="rise" value={figure} onChange={put} min={0.01} max={1000} />}
      {kind === "after" && <NumberField label="Minutes" unit="min" value={figure} onChange={put} min={1} max={2880} />}
      <Button disabled={!ready} onClick={() => onAdd(made())}>
        Set this alarm
      </Button>
    </div>
  );
}
