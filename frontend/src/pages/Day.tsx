import { useQueryClient } from "@tanstack/react-query";
import { CalendarPlus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";

import type { ApiError, DayJob, DayOut } from "../api/client";
import { options, refresh } from "../api/options";
import { commands, hrefs } from "../api/commands";
import { useDay } from "../api/queries";
import { settle } from "../api/settle";
import { Strip } from "../bench/Strip";
import { fromLocal, toLocal } from "../bench/when";
import { clock } from "../lib/format";
import { Button, FileLink } from "../ui/Button";
import { Tick } from "../ui/Tick";
import { Fault, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

/** The day over all jobs and pumps: where a person is needed when, and what clashes. */
export function Day() {
  useTitle("Day");
  const { data, error } = useDay();
  const client = useQueryClient();
  const [now] = useState(() => Date.now() / 1000);
  const [picked, setPicked] = useState<string[]>([]);
  const [from, setFrom] = useState(() => Math.ceil(Date.now() / 900_000) * 900);
  const [fault, setFault] = useState<ApiError | null>(null);
  if (error && !data) return <Fault title="The day cannot be shown" detail={error.message} />;
  if (!data) return <Waits className="p-4">Laying the day out…</Waits>;
  const planned = data.jobs.filter((j) => j.start_at !== null && j.touches.length > 0);
  const open = data.jobs.filter((j) => !planned.includes(j));
  const dates = [...new Set(planned.map((j) => dateOf(j.start_at!)))];
  const fit = () => {
    const keys = picked.length > 0 ? picked : open.filter((j) => !j.fault).map((j) => j.key);
    return commands.fitDay(keys, from).then(
      (d) => {
        settle(client, options.day(), d);
        refresh(client, ["job"]);
        setPicked([]);
        setFault(null);
      },
      (e: ApiError) => setFault(e),
    );
  };
  return (
    <>
      <header className="mb-4 flex flex-wrap items-end gap-3">
        <div className="mr-auto">
          <h1 className="text-title">Day</h1>
          <p className="text-soft">When each job needs you, and what clashes.</p>
        </div>
        <label>
          <span className="mb-1 block text-soft">Not before</span>
          <input type="datetime-local" value={toLocal(from)} onChange={(e) => setFrom(fromLocal(e.target.value) ?? from)} className="figure min-h-12 rounded-[5px] border-2 border-strong bg-sheet px-3" />
        </label>
        <Button kind="solid" onClick={fit} disabled={picked.length === 0 && open.every((j) => j.fault)}>
          {picked.length > 0 ? `Fit ${picked.length} in` : "Fit the rest in"}
        </Button>
        <FileLink href={hrefs.dayCalendar}>
          <CalendarPlus size={18} aria-hidden /> Calendar
        </FileLink>
      </header>
      {fault && <Fault title={fault.problem.title} detail={fault.problem.detail} />}
      <Clashes day={data} />
      {planned.length === 0 && <p className="sheet p-6">No job has a start yet. Fit them in, or set a start under Rig, The day.</p>}
      {dates.map((date) => (
        <OneDate key={date} date={date} jobs={planned.filter((j) => dateOf(j.start_at!) === date)} now={now} picked={picked} setPicked={setPicked} />
      ))}

      {open.length > 0 && (
        <section className="mt-5">
          <h2 className="mb-2 text-order">Without a start</h2>
          <ul className="sheet list-none p-0 px-4">
            {open.map((j) => (
              <li key={j.key} className="flex flex-wrap items-center gap-3 border-t border-rule py-1 first:border-0">
                <Pick job={j} on={picked.includes(j.key)} set={setPicked} />
                <Link to={`/jobs/${j.key}/scope`} className="min-h-12 py-3 font-bold hover:underline">
                  {j.title}
                </Link>
                <span className="text-soft">{j.pump}</span>
                {j.fault && <span className="text-stop">{j.fault}</span>}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const dateOf = (at: number): string => new Date(at * 1000).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });

/** The jobs of one date on one scale. */
function OneDate({
  date,
  jobs,
  now,
  picked,
  setPicked,
}: {
  date: string;
  jobs: DayJob[];
  now: number;
  picked: string[];
  setPicked: React.Dispatch<React.SetStateAction<string[]>>;
}) {
  const begin = Math.min(...jobs.map((j) => j.touches[0]!.at.low)) - 600;
  const end = Math.max(...jobs.map((j) => j.touches[j.touches.length - 1]!.at.high)) + 900;
  return (
    <section className="mb-4">
      <h2 className="mb-2 text-order">{date}</h2>
      <ul className="grid list-none gap-3 p-0">
        {jobs.map((j) => (
          <li key={j.key} className="sheet p-4">
            <div className="flex flex-wrap items-center gap-x-4">
              {j.running ? <Tag tone="pass">drawing</Tag> : <Pick job={j} on={picked.includes(j.key)} set={setPicked} />}
              <Link to={`/jobs/${j.key}/${j.running ? "draw" : "rig"}`} className="casual min-h-12 py-3 text-order font-bold hover:underline">
                {j.title}
              </Link>
              <span className="text-soft">{j.pump}</span>
              <span className="figure ml-auto font-bold">{clock(j.start_at!)}</span>
            </div>
            <Strip job={j} from={begin} to={end} now={now} />
            <p className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
              {j.touches.map((t) => (
                <span key={t.kind}>
                  <span className="figure font-bold">{clock(t.at.value)}</span> {t.title}
                </span>
              ))}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Pick({ job, on, set }: { job: DayJob; on: boolean; set: React.Dispatch<React.SetStateAction<string[]>> }) {
  return (
    <Tick
      quiet
      label={`Fit ${job.title} in`}
      on={on}
      disabled={job.fault !== ""}
      onChange={(v) => set((p) => (v ? [...p, job.key] : p.filter((k) => k !== job.key)))}
    />
  );
}

function Clashes({ day }: { day: DayOut }) {
  const title = (k: string) => day.jobs.find((j) => j.key === k)?.title ?? k;
  if (day.conflicts.length === 0) return null;
  return (
    <section role="alert" className="sheet mb-4 border-[3px] border-ochre p-4">
      <h2 className="text-lead">
        {day.conflicts.length} clash{day.conflicts.length === 1 ? "" : "es"}
      </h2>
      <ul className="list-none p-0">
        {day.conflicts.map((c, i) => (
          <li key={i} className="mt-1">
            <Tag tone="caution">{c.what}</Tag> <span className="figure font-bold">{clock(c.at)}</span> {c.words}: {title(c.keys[0])} and {title(c.keys[1])}
          </li>
        ))}
      </ul>
    </section>
  );
}
