import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { useCatalogue } from "../api/queries";
import { HoldRead } from "../hold/HoldRead";
import { span } from "../lib/format";
import { AS_SAID, DATE_ORDERS, TIME_UNITS, type TimeUnit } from "../lib/tableSaid";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";
import { useUnits } from "../lib/units";
import { useTitle } from "../lib/title";

const MOST = 20_000_000;

/** A hold without a job: readings pasted or dropped, a little of what is known, the verdict. */
export function Quick() {
  useTitle("Hold check");
  const u = useUnits();
  const catalogue = useCatalogue();
  const [text, setText] = useState("");
  const [over, setOver] = useState(false);
  const [known, setKnown] = useState<"volume" | "kind">("volume");
  const [litres, setLitres] = useState<number | null>(null);
  const [template, setTemplate] = useState("cooler");
  const [kw, setKw] = useState<number | null>(null);
  const [length, setLength] = useState<number | null>(null);
  const [coldest, setColdest] = useState(15);
  const [refrigerant, setRefrigerant] = useState("R-448A");
  const [school, setSchool] = useState("code-minimum");
  const [isolated, setIsolated] = useState<number | null>(null);
  const [elevation, setElevation] = useState<number | null>(null);
  const [timeUnit, setTimeUnit] = useState<TimeUnit | "as-said">("as-said");
  const [dayFirst, setDayFirst] = useState<"day" | "month" | "as-said">("as-said");
  const [big, setBig] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const read = useMutation({
    mutationFn: () =>
      commands.quickHold({
        text,
        volume_l: known === "volume" ? litres : null,
        template,
        capacity_kw: known === "kind" ? kw : null,
        length_m: known === "kind" ? length : null,
        coldest_c: coldest,
        refrigerant,
        school,
        elevation_m: elevation,
        isolated_at_s: isolated,
        time_unit: timeUnit === "as-said" ? null : timeUnit,
        day_first: dayFirst === "as-said" ? null : dayFirst === "day",
      }),
  });
  const take = (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST) {
      setBig(`${file.name} has ${Math.round(file.size / 1e6)} MB; the most is ${MOST / 1e6} MB. Export the hold alone.`);
      return;
    }
    setBig("");
    void file.text().then(setText);
  };
  const lines = text.trim() === "" ? 0 : text.trim().split("\n").length;
  const fault = read.error instanceof ApiError ? read.error : null;
  const out = read.data;
  const choices = (list: { value: string; label: string }[] | undefined) => list ?? [];
  const c = catalogue.data;
  return (
    <div className="grid gap-3">
      <header>
        <h1 className="text-title leading-tight">Hold check</h1>
        <p className="text-soft">Readings of a hold test, from any gauge that can write a table. Nothing is kept.</p>
      </header>
      <div className="grid items-start gap-3 md:grid-cols-2">
        <Sheet title="Readings" aside={lines > 0 ? `${u.whole(lines)} lines` : ""}>
          <div
            onDragOver={(e) => {
              e.preventDefault();
              setOver(true);
            }}
            onDragLeave={() => setOver(false)}
            onDrop={(e) => {
              e.preventDefault();
              setOver(false);
              take(e.dataTransfer.files[0]);
            }}
            className={`rounded-[5px] border-2 border-dashed p-2 ${over ? "border-green bg-green-wash" : "border-strong"}`}
          >
            <label htmlFor="quick-text" className="mb-1 block text-soft">
              Paste a table here, or drop a file on it
            </label>
            <textarea
              id="quick-text"
              value={text}
              onChange={(e) => setText(e.target.value)}
              spellCheck={false}
              placeholder={"time (s),micron\n0,210\n60,236\n120,251"}
              className="figure h-[210px] w-full resize-y rounded-[5px] border-2 border-ink bg-sheet p-2 text-note"
            />
          </div>
          <input ref={input} type="file" accept=".csv,.txt,text/*" className="sr-only" aria-label="Choose a file of readings" onChange={(e) => take(e.target.files?.[0])} />
          <div className="mt-2 flex flex-wrap gap-2">
            <Button onClick={() => input.current?.click()}>Choose a file</Button>
            {text && (
              <Button kind="quiet" onClick={() => setText("")}>
                Clear
              </Button>
            )}
          </div>
          {big && (
            <div className="mt-2">
              <Fault title="Too large" detail={big} />
            </div>
          )}
        </Sheet>
        <Sheet title="What is known">
          <div className="grid gap-3">
            <Segments
              label="The volume closed in"
              value={known}
              options={[
                { value: "volume", label: "is known" },
                { value: "kind", label: "estimate it" },
              ]}
              onChange={(v) => setKnown(v)}
            />
            {known === "volume" ? (
              <NumberField label="Volume" dim="volume" min={0.05} max={100_000} value={litres} onChange={setLitres} />
            ) : (
              <div className="grid grid-cols-2 gap-3">
                <div className="col-span-2">
                  <SelectField label="Kind of system" value={template} options={choices(c?.templates)} onChange={setTemplate} />
                </div>
                <NumberField label="Capacity" dim="capacity" optional min={0.1} max={2000} value={kw} onChange={setKw} />
                <NumberField label="Lines, one way" dim="length" optional min={0.5} max={500} value={length} onChange={setLength} />
              </div>
            )}
            <div className="grid grid-cols-2 gap-3">
              <NumberField label="Coldest spot" dim="temperature" min={-60} max={60} value={coldest} onChange={(v) => v !== null && setColdest(v)} />
              <NumberField label="Elevation" dim="length" optional min={-430} max={5000} value={elevation} onChange={setElevation} />
              <NumberField label="Isolated at" unit="s" optional min={0} max={4_000_000} value={isolated} onChange={setIsolated} />
              <SelectField label="Times are in" value={timeUnit} options={[AS_SAID, ...TIME_UNITS]} onChange={setTimeUnit} />
              <SelectField label="Dates begin with" value={dayFirst} options={[AS_SAID, ...DATE_ORDERS]} onChange={setDayFirst} />
              <SelectField label="Refrigerant" value={refrigerant} options={choices(c?.refrigerants)} onChange={setRefrigerant} />
              <SelectField label="Standard" value={school} options={choices(c?.schools)} onChange={setSchool} />
            </div>
            <p className="text-note text-soft">Isolated at: seconds from the first reading. Left empty, it is found where the curve leaves its floor.</p>
            <Button kind="solid" disabled={lines < 2 || read.isPending || (known === "volume" && litres === null)} onClick={() => read.mutate()}>
              {read.isPending ? "Reading…" : "Read the hold test"}
            </Button>
            {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />}
          </div>
        </Sheet>
      </div>
      {out && (
        <>
          <p className="text-note text-soft">
            {u.whole(out.rows)} rows{out.over_range > 0 && `, ${out.over_range} over range`}; the hold test begins at {span(out.hold_from_s)}; {out.volume}.{" "}
            {out.guesses.length > 0 && `Taken for granted: ${out.guesses.join("; ")}.`}
          </p>
          <HoldRead v={out.verdict} series={[{ gauge: "readings", part: null, at: out.at, pa: out.pa, total: out.at.length, thinned: false, simulated: [] }]} now={out.verdict.span_s} />
        </>
      )}
    </div>
  );
}
