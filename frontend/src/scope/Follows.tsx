import { useState } from "react";

import type { DialOut, Job, SystemOut } from "../api/client";
import { commands } from "../api/commands";
import { ApiError } from "../api/client";
import type { Editor } from "../api/editor";
import { useCatalogue } from "../api/queries";
import { useUnits } from "../lib/units";
import { SelectField } from "../ui/Choice";
import { NumberField, TextField } from "../ui/Field";
import { Cautions, Sheet } from "../ui/Sheet";
import { Word } from "../ui/Word";


/** What the scope works out: what is inside, the criterion with its reason, the cautions. */
export function Follows({ job, editor, data }: { job: Job; editor: Editor; data: SystemOut }) {
  const u = useUnits();
  const inside = data.sections.filter((s) => s.state !== "charge");
  const widest = Math.max(...inside.map((s) => s.volume_m3.value));
  const v = data.volume_m3;
  return (
    <div className="grid gap-4">
      <Sheet title="Inside" fold="scope-inside" strong>
        <p className="figure text-display leading-none font-bold">
          {u.figure("volume", v.value * 1e3)}
          <span className="text-order"> {u.label("volume")}</span>
        </p>
        <p className="text-soft">
          {u.figure("volume", v.low * 1e3)} to {u.say("volume", v.high * 1e3)}
        </p>
        <ul className="mt-3 list-none p-0">
          {inside.map((s) => (
            <li key={s.name} className="mb-1.5">
              <div className="flex justify-between gap-2">
                <span className={s.state === "left-out" ? "text-stop" : ""}>{s.label}</span>
                <span className="figure whitespace-nowrap">{u.say("volume", s.volume_m3.value * 1e3)}</span>
              </div>
              <div className="h-2 bg-rule">
                <div className={`h-2 ${s.state === "left-out" ? "hatch border border-stop" : "bg-pencil"}`} style={{ width: `${Math.max(1, (100 * s.volume_m3.value) / widest)}%` }} />
              </div>
            </li>
          ))}
        </ul>
        <p className="mt-3 border-t-2 border-rule pt-3">
          <span className="font-bold text-ochre">Water</span> <span className="figure font-bold">{u.grams(1e3 * data.water_kg.value)}</span>{" "}
          <span className="text-soft">
            ({u.grams(1e3 * data.water_kg.low)} to {u.grams(1e3 * data.water_kg.high)}, estimate), most in the {data.water_place}
          </span>
          <br />
          <Word of="saturation">boils</Word> at <span className="figure">{u.say("pressure", data.water_boils_pa)}</span> at the coldest spot
          <br />
          <span className="text-soft">
            atmosphere here <span className="figure">{u.say("pressure", data.atmosphere_pa)}</span>
          </span>
        </p>
        {data.charge && (
          <p className="mt-3 border-t-2 border-rule pt-3">
            To weigh in <span className="figure font-bold">{u.say("mass", data.charge.kg)}</span>
            <br />
            <span className="text-soft">{data.charge.words}</span>
          </p>
        )}
      </Sheet>
      <Criterion job={job} editor={editor} data={data} />
      <Cautions words={data.cautions.map((c) => c.words)} />
    </div>
  );
}

/** The school followed, a second one watched with it, figures of one's own. */
function Criterion({ job, editor, data }: { job: Job; editor: Editor; data: SystemOut }) {
  const { data: cat } = useCatalogue();
  const u = useUnits();
  const c = job.criterion!;
  const school = c.school ?? "deep-and-flat";
  const set = (change: Partial<NonNullable<Job["criterion"]>>, at: "once" | "typing" = "once") => editor.edit((j) => ({ ...j, criterion: { ...j.criterion!, ...change } }), at);
  const schools = (cat?.schools ?? []).map((s) => ({ value: s.value, label: s.label }));
  const typed = school === "makers-own" || c.target_micron != null || c.limit_micron != null || c.hold_min != null || c.dwell_min != null;
  const [own, setOwn] = useState(false);
  const micron = 101325 / 760000;
  return (
    <Sheet title="Acceptance standard" fold="scope-standard">
      <div className="grid gap-3">
        <SelectField label="Standard" value={school} options={schools} onChange={(v) => set({ school: v, target_micron: null, limit_micron: null, hold_min: null, dwell_min: null })} />
        <SelectField label="Watched with it" value={c.also ?? "none"} options={[{ value: "none", label: "none" }, ...schools.filter((s) => s.value !== school)]} onChange={(v) => set({ also: v === "none" ? null : v })} />
      </div>
      {data.criteria.map((x) => (
        <p key={x.key} className="mt-2">
          <b>{x.name}:</b> {x.rule}.
        </p>
      ))}
      <p className="mt-2 text-soft">
        {data.default_school === school ? "Proposed because: " : `Proposed: ${cat?.schools.find((s) => s.value === data.default_school)?.label}. `}
        {data.default_reason}.
      </p>
      {typed || own ? (
        <div className="mt-3 grid grid-cols-2 gap-3">
          <NumberField label="Pull to" dim="pressure" per={micron} optional min={1} max={20000} value={c.target_micron} onChange={(v) => set({ target_micron: v }, "typing")} />
          <NumberField label="Stay under" dim="pressure" per={micron} optional min={1} max={20000} value={c.limit_micron} onChange={(v) => set({ limit_micron: v }, "typing")} />
          <NumberField label="Hold" unit="min" optional min={1} max={1440} value={c.hold_min} onChange={(v) => set({ hold_min: v }, "typing")} />
          <NumberField label="Keep pulling under it" unit="min" optional min={0} max={1440} value={c.dwell_min} onChange={(v) => set({ dwell_min: v }, "typing")} />
        </div>
      ) : (
        <button type="button" className="mt-2 min-h-12 font-bold underline" onClick={() => setOwn(true)}>
          Figures of your own
        </button>
      )}
      {data.dial && (
        <div className="mt-3 border-t-2 border-rule pt-3">
          <p className="border-l-4 border-ochre pl-3">
            Here a full pull reads <span className="figure font-bold">{u.fixed(data.dial.inhg, 2)} inHg</span>. A needle can be off by{" "}
            <span className="figure">{u.say("pressure", data.dial.blind_pa)}</span>: it can miss a leak of <span className="figure">{u.scientific(data.dial.leak)} Pa·m³/s</span> and{" "}
            <span className="figure">{u.grams(data.dial.water_g)}</span> of {u.spelled("vapor")}. Recorded as unverified.
          </p>
          <DialCheck atmosphere={data.atmosphere_pa} />
        </div>
      )}
    </Sheet>
  );
}

/** A dial reading as it was said: what cannot be is asked back. */
function DialCheck({ atmosphere }: { atmosphere: number }) {
  const u = useUnits();
  const [text, setText] = useState("");
  const [out, setOut] = useState<DialOut | null>(null);
  const [fault, setFault] = useState("");
  const read = (t: string) => {
    setText(t);
    setOut(null);
    setFault("");
    if (t.trim())
      commands.readDial(t, atmosphere).then(setOut, (e: unknown) => e instanceof ApiError && setFault(e.problem.detail));
  };
  return (
    <div className="mt-3">
      <TextField label="What the dial says" hint="29.5 inHg" value={text} onChange={read} />
      {out && (
        <p className="mt-1" aria-live="polite">
          <span className="figure font-bold">{u.fixed(out.inhg, 2)} inHg</span>, {u.say("pressure", out.pa)} left.
          {out.asked && <span className="block border-l-4 border-ochre pl-3">{out.asked}</span>}
        </p>
      )}
      {fault && <p className="mt-1 text-stop">{fault}</p>}
    </div>
  );
}
