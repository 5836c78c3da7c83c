import { useMutation, useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";

import type { LapOut, RaceOut, SeriesOut } from "../api/client";
import { commands } from "../api/commands";
import { options } from "../api/options";
import { capital } from "../lib/capital";
import { span } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { useTitle } from "../lib/title";
import { useUnits } from "../lib/units";
import { ink, pencil } from "../practice/curves";
import { elapsed } from "../practice/elapsed";
import { AS_IT_STANDS, isWhole, NOTHING, ofTheVan, RigSlots, type Chosen } from "../practice/RigSlots";
import { FIRST, useSheet } from "../practice/sheets";
import { hiddenOf, NOTHING_WRONG, Wrong } from "../practice/Wrong";
import { Trace } from "../trace/Trace";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Facts } from "../ui/Facts";
import { Fault, Sheet, Tag } from "../ui/Sheet";

const SEED = 7;
const LANES = ["One rig", "The other"];

/** Two rigs on one system with the same thing wrong, side by side: what the rig does, and what the fault does. */
export function PracticeRace() {
  useTitle("Race two rigs");
  const [from, setFrom] = useState(FIRST);
  const [wrong, setWrong] = useState(NOTHING_WRONG);
  const [lanes, setLanes] = useState<Chosen[]>([NOTHING, NOTHING]);
  const { sources, sheet, possible, isNew } = useSheet(from);
  const rigs = useQuery(options.rigsFor(from, sheet.data));
  const results = useRef<HTMLDivElement>(null);
  const race = useMutation({ onSuccess: () => results.current?.scrollIntoView({ block: "start" }), mutationFn: () => commands.race(sheet.data!, hiddenOf(wrong, SEED), lanes.map(ofTheVan)) });
  const own = (sheet.data?.rig?.parts ?? []).length > 0 && !isNew ? [AS_IT_STANDS] : [];
  const ready = sheet.data !== undefined && lanes.every((c) => isWhole(rigs.data, c));
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(320px,400px)_minmax(0,1fr)]">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4 lg:col-span-2">
        <h1 className="text-heading">Race two rigs</h1>
        <Link to="/practice" className="underline">
          Practice
        </Link>
      </header>
      <div className="grid content-start gap-3">
        <Sheet title="The system">
          <div className="grid gap-3">
            <SelectField
              label="System from"
              value={from}
              onChange={(v) => {
                setFrom(v);
                setWrong(NOTHING_WRONG);
                setLanes([NOTHING, NOTHING]);
                race.reset();
              }}
              options={sources}
            />
            {possible.error && <Fault title="Nothing can be hidden in this sheet" detail={possible.error.message} />}
            <Wrong possible={possible.data} wrong={wrong} onChange={setWrong} />
          </div>
        </Sheet>
        {lanes.map((chosen, i) => (
          <Sheet key={i} title={LANES[i]!}>
            <div className="grid gap-3" role="group" aria-label={LANES[i]!}>
              <RigSlots rigs={rigs.data} chosen={chosen} more={own} onChange={(next) => setLanes((old) => old.map((c, n) => (n === i ? next : c)))} />
            </div>
          </Sheet>
        ))}
        <Button kind="solid" disabled={!ready || race.isPending} onClick={() => race.mutate()}>
          {race.isPending ? "Both are drawn down…" : "Start both pumps"}
        </Button>
        {!ready && <p className="text-soft">Wants a setup in each lane, with a part in every place.</p>}
      </div>
      <div ref={results} className="grid min-w-0 content-start gap-3 self-start lg:sticky lg:top-3">
        {race.error && <Fault title="It cannot be raced" detail={race.error.message} />}
        {race.data ? <Raced race={race.data} named={(key) => possible.data?.faults.find((f) => f.value === key)?.label ?? key} /> : <Sheet>Both begin from the air at the same moment, with the same thing wrong. Each is isolated when its worst spot is at the target, and held.</Sheet>}
      </div>
    </div>
  );
}

/** Both curves on one sheet, and what each came to. */
function Raced({ race, named }: { race: RaceOut; named: (key: string) => string }) {
  const narrow = useNarrow();
  const u = useUnits();
  const series = useMemo<SeriesOut[]>(
    () => race.laps.map((l, i) => ink(LANES[i]!, l.path.at, l.path.shown)),
    [race],
  );
  const pencils = race.laps.map((l, i) => pencil(l.path.at, l.path.highest, i));
  const end = Math.max(600, ...race.laps.map((l) => l.end));
  return (
    <>
      <Sheet title="Both draws" className="p-3!">
        <Trace
          label={`Two draws. ${race.laps.map((l, i) => `${LANES[i]!}, ${l.rig}: ${l.down_at === null || l.down_at === undefined ? "never down" : `down after ${span(l.down_at)}`}`).join(". ")}`}
          series={series}
          log
          height={narrow ? 260 : 340}
          from={0}
          to={end * 1.03}
          bottom={10}
          pencils={pencils}
          levels={[{ pa: race.target_pa, label: `target ${u.say("pressure", race.target_pa)}`, tone: "green" }]}
          time={(t) => elapsed(t)}
        />
        <p className="mt-1 flex flex-wrap gap-x-5 text-note text-soft">
          {race.laps.map((_, i) => (
            <span key={i}>
              <span className={`mr-1 inline-block w-6 border-t-[3px] border-measure align-middle ${i === 0 ? "" : "border-dashed"}`} /> {LANES[i]!.toLowerCase()}, what its gauge says
            </span>
          ))}
          <span>
            <span className="mr-1 inline-block w-6 border-t-2 border-dashed border-pencil align-middle" /> true, at the worst spot of each
          </span>
        </p>
      </Sheet>
      <div className="grid gap-3 md:grid-cols-2">
        {race.laps.map((l, i) => (
          <Lap key={i} lane={LANES[i]!} lap={l} best={race.laps.every((o) => o === l || (l.down_at ?? Infinity) < (o.down_at ?? Infinity))} named={named} holdS={race.hold_s} />
        ))}
      </div>
    </>
  );
}

function Lap({ lane, lap: l, best, named, holdS }: { lane: string; lap: LapOut; best: boolean; named: (key: string) => string; holdS: number }) {
  const u = useUnits();
  const late = l.down_at !== null && l.down_at !== undefined && l.gauge_at !== null && l.gauge_at !== undefined ? l.down_at - l.gauge_at : 0;
  const rows: [string, string][] = [
    ["Gauge at the target", l.gauge_at === null || l.gauge_at === undefined ? "never" : `after ${span(l.gauge_at)}`],
    ["Worst spot at the target", l.down_at === null || l.down_at === undefined ? `never; called off after ${span(l.end)}` : `after ${span(l.down_at)}`],
    ["Then the gauge says", l.reads_pa === null || l.reads_pa === undefined ? "over range" : u.say("pressure", l.reads_pa)],
    ["and the worst spot is at", `${u.say("pressure", l.worst_pa)}, ${l.worst}`],
    [`Hold of ${span(holdS)}`, l.said ? capital(l.said) : l.down_at === null || l.down_at === undefined ? "not come to" : "this rig cannot isolate"],
  ];
  return (
    <Sheet title={lane} aside={best ? <Tag tone="pass">first</Tag> : undefined}>
      <p className="mb-2">{l.rig}</p>
      <Facts rows={rows} />
      {l.said && l.right === false && <p className="mt-2 border-l-4 border-ochre pl-3">Truly: {l.truly}.</p>}
      {late > 60 && <p className="mt-2 border-l-4 border-ochre pl-3">Its gauge was there {span(late)} before the system was.</p>}
      {l.not_on.length > 0 && <p className="mt-2 text-soft">This rig cannot have it: {l.not_on.map(named).join("; ")}.</p>}
    </Sheet>
  );
}
