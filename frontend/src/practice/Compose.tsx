import { useState } from "react";

import type { Job, Scenario } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { useCatalogue } from "../api/queries";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField, TextField } from "../ui/Field";
import { Fault } from "../ui/Sheet";
import { FIRST, useSheet } from "./sheets";
import { hiddenOf, NOTHING_WRONG, Wrong } from "./Wrong";

type Weather = Partial<Record<"ambient_c" | "coldest_c" | "humidity_pct", number | null>>;

/** The sheet with the standard and the weather of the scenario, where something is said of them. */
function asComposed(sheet: Job, school: string, weather: Weather): Job {
  const said = Object.fromEntries(Object.entries(weather).filter(([, v]) => v !== null));
  return { ...sheet, scope: { ...sheet.scope, ...said } as Job["scope"], criterion: school === "sheet" ? sheet.criterion : ({ school } as Job["criterion"]) };
}

/** A trainer's scenario: a sheet to start from, what is hidden in it, what the learner is told. */
export function Compose({ onDone }: { onDone: () => void }) {
  const catalogue = useCatalogue();
  const [title, setTitle] = useState("");
  const [brief, setBrief] = useState("");
  const [lesson, setLesson] = useState("");
  const [level, setLevel] = useState("3");
  const [from, setFrom] = useState(FIRST);
  const [rigged, setRigged] = useState("yes");
  const [started, setStarted] = useState("no");
  const [ends, setEnds] = useState("verdict");
  const [school, setSchool] = useState("sheet");
  const [weather, setWeather] = useState<Weather>({});
  const [arrives, setArrives] = useState<number | null>(15);
  const [hints, setHints] = useState(["", "", ""]);
  const [wrong, setWrong] = useState(NOTHING_WRONG);
  const [fault, setFault] = useState<ApiError | null>(null);
  const { sources, sheet, possible } = useSheet(from);
  const save = () => {
    const body = {
      key: title.toLowerCase().replace(/[^a-z0-9]+/g, "-").replace(/^-+|-+$/g, "").slice(0, 36) || "own",
      title: title || "A scenario of mine",
      brief,
      lesson,
      level: Number(level),
      rigged: rigged === "yes",
      working: rigged === "working",
      ends,
      sheet: sheet.data && asComposed(sheet.data, school, weather),
      hints: hints.filter((h) => h.trim()),
      before: started === "no" ? [] : [...(started === "ballast" ? [{ kind: "ballast-open", at_s: 0 }] : []), { kind: "pump-on", at_s: 0 }],
      arrive_s: started === "no" ? 0 : (arrives ?? 15) * 60,
      hidden: hiddenOf(wrong, Math.floor(Math.random() * 1e6)),
    } as unknown as Scenario;
    return commands.keepScenario(body).then(onDone, (e: unknown) => e instanceof ApiError && setFault(e));
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
            setWrong(NOTHING_WRONG);
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
            { value: "working", label: "own, on a unit that still runs" },
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
      <Wrong possible={possible.data} wrong={wrong} onChange={setWrong} asFound />
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
