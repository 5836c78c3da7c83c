import { useState } from "react";

import type { AltitudeNote, CordAnswer, DialOut, LeakNote, LineRow, LinesNote } from "../api/client";
import { commands } from "../api/commands";
import { useCatalogue } from "../api/queries";
import { MICRON_PA, percent } from "../lib/format";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { NumberField, TextField } from "../ui/Field";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { useNote } from "./ask";
import { Relation } from "./Relation";
import { Row } from "./Row";

const M = MICRON_PA;

/** What breaks with nitrogen leave of the gas and vapour before. */
export function Nitrogen() {
  const u = useUnits();
  const [low, setLow] = useState<number | null>(1500);
  const [high, setHigh] = useState<number | null>(760000);
  const [times, setTimes] = useState<number | null>(2);
  const found = useNote<{ left: number[] }>("nitrogen", { low_pa: (low ?? 1500) * M, high_pa: (high ?? 760000) * M, times: Math.round(times ?? 2) });
  return (
    <Sheet title="Nitrogen dilution" aside={<Relation relation="nitrogen break" />}>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Broken at" dim="pressure" per={M} value={low} onChange={setLow} min={1} max={700000} />
        <NumberField label="Up to" dim="pressure" per={M} value={high} onChange={setHigh} min={10} max={3000000} />
        <NumberField label="Times" value={times} onChange={setTimes} min={1} max={6} />
      </div>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      <ul className="mt-3 list-none p-0" aria-live="polite">
        {found.data?.left.map((x, i) => <Row key={i} label={`left after ${i + 1}`} value={`1 in ${u.whole(Math.round(1 / x))}`} strong={i === found.data.left.length - 1} />)}
      </ul>
      <p className="mt-2 text-soft">Of gas and {u.spelled("vapor")}. Free water and ice are not diluted, only warmed. {u.say("pressure", 101325)} is 0 gauge at sea level.</p>
    </Sheet>
  );
}

/** A cord judged for a pump. */
export function CordNote() {
  const u = useUnits();
  const wires = useCatalogue().data?.wires ?? [];
  const [length, setLength] = useState<number | null>(30);
  const [wire, setWire] = useState("16 AWG");
  const [volts, setVolts] = useState<number | null>(120);
  const [cfm, setCfm] = useState<number | null>(6);
  const [amps, setAmps] = useState<number | null>(null);
  const found = useNote<CordAnswer>("cord", { length_m: length ?? 30, wire, volts: volts ?? 120, cfm: cfm ?? 6, current_a: amps });
  const a = found.data;
  return (
    <Sheet title="Cord" aside={<Relation relation="cord" />}>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Length, one way" dim="length" value={length} onChange={setLength} min={0.5} max={200} />
        <SelectField label="Wire" value={wire} onChange={setWire} options={wires.map((w) => ({ value: w, label: w }))} />
        <NumberField label="Supply" unit="V" value={volts} onChange={setVolts} min={90} max={480} />
        <NumberField label="Pump" dim="flow" per={0.3048 ** 3 / 60} value={cfm} onChange={setCfm} min={0.5} max={30} />
        <NumberField label="Its plate's current" unit="A" value={amps} onChange={setAmps} min={0.1} max={60} optional />
      </div>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      {a && (
        <div aria-live="polite">
          <ul className="mt-3 list-none p-0">
            <Row strong label="lost running" value={percent(a.running_drop)} />
            <Row label="lost starting" value={percent(a.starting_drop)} />
            <Row label="left at the pump while it starts" value={`${u.whole(a.volts_starting)} V`} />
          </ul>
          <p className="mt-2">
            <Tag tone={a.verdict === "good" ? "pass" : a.verdict === "usable" ? "caution" : "stop"}>{a.verdict}</Tag> {a.words}.
          </p>
        </div>
      )}
    </Sheet>
  );
}

/** The air at an altitude, what a dial says in it, and a dial's reading understood. */
export function Altitude() {
  const u = useUnits();
  const [elevation, setElevation] = useState<number | null>(0);
  const [barometer, setBarometer] = useState<number | null>(null);
  const [target, setTarget] = useState<number | null>(500);
  const [said, setSaid] = useState("");
  const [understood, setUnderstood] = useState<DialOut | string | null>(null);
  const found = useNote<AltitudeNote>("altitude", { elevation_m: elevation ?? 0, barometer_hpa: barometer, target_pa: (target ?? 500) * M });
  const a = found.data;
  return (
    <Sheet title="Altitude and the dial gauge" aside={<Relation relation="air at altitude" />}>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Elevation" dim="length" value={elevation} onChange={setElevation} min={-400} max={5500} />
        <NumberField label="or a barometer" dim="barometer" value={barometer} onChange={setBarometer} min={450} max={1090} optional />
        <NumberField label="Target" dim="pressure" per={M} value={target} onChange={setTarget} min={10} max={30000} />
      </div>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      {a && (
        <ul className="mt-3 list-none p-0" aria-live="polite">
          <Row strong label="a dial at the target shows" value={`${u.fixed(a.dial_inhg, 2)} inHg`} />
          <Row label="a needle can be off by" value={u.say("pressure", a.dial_blind_micron * M)}>
            <Relation relation="dial gauge" />
          </Row>
          <Row label="the air here" value={u.say("barometer", a.atmosphere_pa / 100)} />
          <Row label="the least there is, in psi" value={`−${u.fixed(a.least_psi, 1)}`} />
          <Row label="water boils in the open at" value={u.say("temperature", a.boils_c)} />
        </ul>
      )}
      <form
        className="mt-3 grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          commands.readDial(said, a?.atmosphere_pa ?? 101325).then(setUnderstood, (x: Error) => setUnderstood(x.message));
        }}
      >
        <TextField label="A dial's reading, as it was said" value={said} onChange={setSaid} hint="−30 psi" />
        <Button onClick={(e) => e.currentTarget.form?.requestSubmit()}>Read it</Button>
      </form>
      {understood !== null && (
        <p className="mt-2 border-l-4 border-ochre pl-3" role="status">
          {typeof understood === "string" ? understood : `${u.fixed(understood.inhg, 2)} inHg below the air: ${u.say("pressure", understood.pa)} absolute. ${understood.asked}`}
        </p>
      )}
    </Sheet>
  );
}

const FORMS = [
  { value: "micron-s", label: "µ/s in a volume" },
  { value: "pa-m3-s", label: "Pa·m³/s" },
  { value: "mbar-l-s", label: "mbar·l/s" },
  { value: "g-year", label: "g/year" },
];

/** A leak in every form. */
export function Leak() {
  const catalogue = useCatalogue().data;
  const [form, setForm] = useState("micron-s");
  const [value, setValue] = useState<number | null>(0.5);
  const [volume, setVolume] = useState<number | null>(8);
  const [refrigerant, setRefrigerant] = useState("R-448A");
  const u = useUnits();
  const found = useNote<LeakNote>("leak", { value: value ?? 0, form, volume_l: volume ?? 8, refrigerant });
  const n = found.data;
  return (
    <Sheet title="Leak rate" aside={<Relation relation="leak outward" />}>
      <div className="grid gap-3 sm:grid-cols-2">
        <NumberField key={form} label="Leak" value={value} onChange={setValue} min={0} max={1000000} />
        <SelectField label="in" value={form} onChange={setForm} options={FORMS} />
        <NumberField label="Volume" dim="volume" value={volume} onChange={setVolume} min={0.01} max={20000} />
        <SelectField label="Refrigerant" value={refrigerant} onChange={setRefrigerant} options={catalogue?.refrigerants ?? []} />
      </div>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      {n && (
        <ul className="mt-3 list-none p-0" aria-live="polite">
          <Row strong label="on the gauge" value={u.rate(n.micron_s, false)}>
            <Relation relation="leak" />
          </Row>
          <Row label="into a vacuum" value={`${u.scientific(n.pa_m3_s)} Pa·m³/s`} />
          <Row label="the same" value={`${u.scientific(n.mbar_l_s)} mbar·l/s`} />
          <Row label="outward, at working pressure, a year" value={`${u.grams(n.g_year.low)} to ${u.grams(n.g_year.high)}`}>
            <Relation relation="leak outward">estimate</Relation>
          </Row>
          <Row label="its middle" value={u.grams(n.g_year.value)} />
        </ul>
      )}
      <p className="mt-2 text-soft">A rate means nothing without the volume: the same leak lifts half the volume twice as fast.</p>
    </Sheet>
  );
}

/** What copper lines hold. */
export function Lines() {
  const u = useUnits();
  const sizes = useCatalogue().data?.tube_sizes ?? [];
  const [rows, setRows] = useState<Required<LineRow>[]>([
    { size: "7/8 in", length_m: 14 },
    { size: "1/2 in", length_m: 14 },
  ]);
  const found = useNote<LinesNote>("lines", { rows });
  const change = (i: number, more: Partial<Required<LineRow>>) => setRows((old) => old.map((r, n) => (n === i ? { ...r, ...more } : r)));
  return (
    <Sheet title="Line volume" aside={<Relation relation="line volume" />}>
      <ul className="grid list-none gap-2 p-0">
        {rows.map((r, i) => (
          <li key={i} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_84px] items-end gap-2">
            <SelectField quiet={i > 0} label="Copper" value={r.size} onChange={(size) => change(i, { size })} options={sizes.map((s) => ({ value: s, label: s }))} />
            <NumberField quiet={i > 0} label="Length" dim="length" value={r.length_m} onChange={(v) => v !== null && change(i, { length_m: v })} min={0.01} max={500} />
            <span className="figure min-h-12 content-center text-right font-bold">{found.data?.each[i] ? u.say("volume", found.data.each[i].value * 1000) : ""}</span>
          </li>
        ))}
      </ul>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      <ul className="mt-3 list-none p-0" aria-live="polite">
        {found.data && <Row strong label="together" value={u.say("volume", found.data.total.value * 1000)} />}
      </ul>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => setRows((old) => [...old, { size: "3/8 in", length_m: 10 }])}>One more line</Button>
        {rows.length > 1 && <Button onClick={() => setRows((old) => old.slice(0, -1))}>One less</Button>}
      </div>
    </Sheet>
  );
}
