import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import type { Job, Scenario } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { options } from "../api/options";
import { useCatalogue, useYard } from "../api/queries";
import { Button } from "../ui/Button";
import { Tick } from "../ui/Tick";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField, TextField } from "../ui/Field";
import { Fault } from "../ui/Sheet";

const NEW = "a new sheet: ";
const BAD = [
  { value: "-1", label: "mild" },
  { value: "0", label: "usual" },
  { value: "1", label: "bad" },
];

/** How bad something is (a normal deviate), and after how many minutes it begins. */
interface Bad {
  severity: number;
  after: number;
}
type Weather = Partial<Record<"ambient_c" | "coldest_c" | "humidity_pct", number | null>>;

/** The sheet with the standard and the weather of the scenario, where something is said of them. */
function asComposed(sheet: Job, school: string, weather: Weather): Job {
  const said = Object.fromEntries(Object.entries(weather).filter(([, v]) => v !== null));
  return { ...sheet, scope: { ...sheet.scope, ...said } as Job["scope"], criterion: school === "sheet" ? sheet.criterion : ({ school } as Job["criterion"]) };
}

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
  const [ends, setEnds] = useState("verdict");
  const [school, setSchool] = useState("sheet");
  const [weather, setWeather] = useState<Weather>({});
  const [arrives, setArrives] = useState<number | null>(15);
  const [hints, setHints] = useState(["", "", ""]);
  const [faults, setFaults] = useState<Record<string, Bad>>({});
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
      ends,
      sheet: sheet.data && asComposed(sheet.data, school, weather),
      hints: hints.filter((h) => h.trim()),
      before: started === "no" ? [] : [...(started === "ballast" ? [{ kind: "ballast-open", at_s: 0 }] : []), { kind: "pump-on", at_s: 0 }],
      arrive_s: started === "no" ? 0 : (arrives ?? 15) * 60,
      hidden: { seed: Math.floor(Math.random() * 1e6), faults: Object.entries(faults).map(([key, f]) => ({ key, severity: f.severity, at_s: f.after * 60 })), shut },
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
          { value: "running", label: "runs already" },
          { value: "ballast", label: "and its ballast forgotten" },
        ]}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        {started !== "no" && <NumberField label="The learner comes after" unit="min" min={0} max={1440} value={arrives} onChange={setArrives} />}
        <Segments
          label="It ends with"
          value={ends}
          onChange={setEnds}
          options={[
            { value: "verdict", label: "the verdict" },
            { value: "release", label: "the release" },
          ]}
        />
        <SelectField label="Standard" value={school} onChange={setSchool} options={[{ value: "sheet", label: "the sheet's own" }, ...(catalogue.data?.schools ?? []).map((s) => ({ value: s.value, label: s.label }))]} />
      </div>
      <fieldset className="grid gap-3 sm:grid-cols-3">
        <legend className="mb-1 text-soft">The weather; where nothing stands, the sheet&apos;s own</legend>
        <NumberField label="Ambient" dim="temperature" min={-40} max={60} optional value={weather.ambient_c ?? null} onChange={(v) => setWeather((w) => ({ ...w, ambient_c: v }))} />
        <NumberField label="Coldest spot" dim="temperature" min={-40} max={60} optional value={weather.coldest_c ?? null} onChange={(v) => setWeather((w) => ({ ...w, coldest_c: v }))} />
        <NumberField label="Humidity" unit="%" min={5} max={100} optional value={weather.humidity_pct ?? null} onChange={(v) => setWeather((w) => ({ ...w, humidity_pct: v }))} />
      </fieldset>
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
                    return on ? { ...rest, [f.value]: { severity: 0, after: 0 } } : rest;
                  })
                }
              />
              {f.value in faults && (
                <>
                  <Segments label="how bad" value={String(faults[f.value]!.severity)} onChange={(v) => setFaults((old) => ({ ...old, [f.value]: { ...old[f.value]!, severity: Number(v) } }))} options={BAD} />
                  {f.later && (
                    <NumberField label="begins after" unit="min" min={0} max={1440} value={faults[f.value]!.after} onChange={(v) => setFaults((old) => ({ ...old, [f.value]: { ...old[f.value]!, after: v ?? 0 } }))} />
                  )}
                </>
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
      <fieldset className="grid gap-2">
        <legend className="mb-1 text-soft">Hints of your own, the vaguest first; without any, they follow from what is wrong</legend>
        {hints.map((h, i) => (
          <TextField key={i} label={`Hint ${i + 1}`} value={h} onChange={(v) => setHints((old) => old.map((x, n) => (n === i ? v : x)))} />
        ))}
      </fieldset>
      <Button kind="solid" disabled={!sheet.data || !!possible.error} onClick={save}>
        Save
      </Button>
    </div>
  );
}
