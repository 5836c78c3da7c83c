import { useState } from "react";

import type { LiveOut, WhyOut } from "../api/client";
import { useFound, useJob, useWhy } from "../api/queries";
import { OrderList } from "../rig/Orders";
import { Button } from "../ui/Button";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { capital } from "../lib/capital";

/** Why the draw is slow: suspects by their odds, and the cheapest test that tells them apart. */
export function Why({ jobKey, live }: { jobKey: string; live: LiveOut }) {
  const [open, setOpen] = useState(false);
  const why = useWhy(jobKey, open);
  const found = useFound(jobKey);
  if (live.phase !== "draw" || !live.pump_on) return null;
  const asked = why.data?.answered.map((a) => a.test) ?? [];
  // A stall that the plan foresees is no trouble: water takes its time.
  const odd = live.sign !== null && live.pace === "slower" || live.fit?.contradicts === true;
  const fault = why.error ?? found.error;
  const volume = why.data ?? live;
  return (
    <Sheet title="Why is it slow?" className={odd || volume.volume ? "border-ochre" : ""}>
      {volume.volume && (
        <p className="mb-2 border-l-4 border-ochre pl-3" data-testid="volume">
          <b>{volume.volume}</b> {volume.volume_how}
        </p>
      )}
      {odd && live.sign && (
        <p className="mb-2" data-testid="sign">
          <Tag tone="caution">{live.sign}</Tag>
        </p>
      )}
      {!open && (
        <Button kind={odd ? "solid" : "line"} className="w-full md:w-auto" onClick={() => setOpen(true)}>
          Look into it
        </Button>
      )}
      {open && why.isFetching && !why.data && <p className="text-soft">Weighing what it can be…</p>}
      {fault && <Fault title="Not looked into" detail={fault.message} />}
      {open && why.data && (
        <>
          <div className="grid gap-x-8 gap-y-3 md:grid-cols-2">
            <Suspects why={why.data} jobKey={jobKey} />
            <NextTest why={why.data} busy={found.isPending} onFound={(test, outcome) => found.mutate({ test, outcome })} key={asked.join()} />
          </div>
          {why.data.answered.length > 0 && (
            <ul className="mt-3 grid list-none gap-1 border-t border-rule p-0 pt-2 text-note text-soft">
              {why.data.answered.map((a) => (
                <li key={a.test}>
                  {a.do} <b className="text-ink">{a.found}</b>
                </li>
              ))}
            </ul>
          )}
          <Button className="mt-3 w-full md:w-auto" disabled={found.isPending} onClick={() => found.mutate(null)}>
            {found.isPending ? "Looking…" : "Look again from the beginning"}
          </Button>
        </>
      )}
    </Sheet>
  );
}

/** Odds as a whole figure: never nothing, and never certainty. */
const percentOf = (odds: number) => `${Math.min(99, Math.max(1, Math.round(100 * odds)))} %`;

function Suspects({ why, jobKey }: { why: WhyOut; jobKey: string }) {
  const [steps, setSteps] = useState("");
  const job = useJob(jobKey);
  const shown = why.suspects.filter((s, i) => i < 2 || s.odds >= 0.04).slice(0, 4);
  const [first] = shown;
  return (
    <div>
      <ol className="grid list-none gap-1.5 p-0" aria-label="Causes">
        {shown.map((s) => (
          <li key={s.key}>
            <div className="flex items-baseline justify-between gap-2">
              <span className={s === first ? "font-bold" : ""}>{s.words}</span>
              <span className="flex-none text-right">
                <span className="text-note text-soft">{s.likely}</span> <span className="figure font-bold">{percentOf(s.odds)}</span>
              </span>
            </div>
            {s.place && <div className="text-note">Found {s.place}</div>}
            <div className="mt-0.5 h-1.5 bg-rule" aria-hidden>
              <div className="h-full bg-ink" style={{ width: `${100 * s.odds}%` }} />
            </div>
          </li>
        ))}
      </ol>
      {why.both && (
        <p className="mt-2" data-testid="both">
          Both at once: {percentOf(why.both.odds)}. {why.both.first}, and perhaps also: {why.both.second}.
        </p>
      )}
      {why.settled && why.to_do.length > 0 && (
        <ol className="mt-2 grid list-none gap-2 border-l-4 border-green p-0 pl-3" data-testid="cure" aria-label="What to do">
          {why.to_do.map((s) => (
            <li key={s.key}>
              <b>{s.cure}</b>
              {s.goal && (
                <Button className="mt-1 block!" aria-expanded={steps === s.key} onClick={() => setSteps((now) => (now === s.key ? "" : s.key))}>
                  {steps === s.key ? "Hide the steps" : "Show the steps"}
                </Button>
              )}
              {s.goal && steps === s.key && <OrderList jobKey={jobKey} goal={s.goal} on={s.on} version={job.data?.version ?? 0} />}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

function NextTest({ why, busy, onFound }: { why: WhyOut; busy: boolean; onFound: (test: string, outcome: string) => void }) {
  const [at, setAt] = useState(0);
  const test = why.tests[at % Math.max(1, why.tests.length)];
  if (!test) return why.settled ? null : <p className="mt-2 text-soft">No test on this rig tells them further apart.</p>;
  const ask = test.do.split(/(?<=\.) (?=[A-Z][^.]*\?$)/);
  return (
    <div data-testid="next-test">
      <div className="flex items-center justify-between gap-2 text-soft">
        <span>{why.settled ? "To be surer" : "Tells most for its time"}</span>
        <span className="figure">{test.minutes < 1 ? "½" : Math.round(test.minutes)} min</span>
      </div>
      <p className="casual text-order leading-[1.2] font-extrabold">{ask[0]!}</p>
      {ask[1] && <p className="mt-1">{ask[1]}</p>}
      <div className="mt-2 grid gap-2" style={{ gridTemplateColumns: `repeat(${test.outcomes.every((o) => o.words.length < 10) ? test.outcomes.length : 1}, minmax(0, 1fr))` }}>
        {test.outcomes.map((o) => (
          <Button key={o.key} disabled={busy} onClick={() => onFound(test.key, o.key)}>
            {capital(o.words)}
          </Button>
        ))}
      </div>
      {why.tests.length > 1 && (
        <button type="button" className="mt-2 min-h-11 text-soft underline" onClick={() => setAt((n) => n + 1)}>
          Another test
        </button>
      )}
    </div>
  );
}
