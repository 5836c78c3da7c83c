import { useMemo } from "react";
import { Link, useNavigate, useParams } from "react-router";

import type { DebriefOut, JudgedOut, SeriesOut } from "../api/client";
import { commands } from "../api/commands";
import { useDebrief } from "../api/practice";
import { span } from "../lib/format";
import { useNarrow } from "../lib/narrow";
import { useUnits } from "../lib/units";
import { ink, pencil } from "../practice/curves";
import { elapsed } from "../practice/elapsed";
import { Trace } from "../trace/Trace";
import { Button } from "../ui/Button";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

/** The debrief: the score by skill, what was true beside what the gauge said, every touch, and a sound hand's way. */
export function PracticeDebrief() {
  useTitle("Debrief");
  const key = useParams().runKey ?? "";
  const found = useDebrief(key);
  const navigate = useNavigate();
  if (found.error) return <Fault title="There is no debrief yet" detail={found.error.message} />;
  if (!found.data) return <Waits>An expert plays the same job…</Waits>;
  const d = found.data;
  const exam = d.scenario.key.startsWith("exam-");
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(320px,400px)_minmax(0,1fr)]">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4 lg:col-span-2">
        <h1 className="text-heading">{d.scenario.title}</h1>
        <div className="flex gap-3">
          {!exam && <Button onClick={() => commands.beginPractice(d.scenario.key).then((r) => navigate(`/practice/${r.key}`))}>Once more</Button>}
          <Link to="/practice" className="casual inline-flex min-h-12 items-center rounded-[5px] border-2 border-ink px-4 font-bold">
            All scenarios
          </Link>
        </div>
      </header>
      <div className="grid content-start gap-3">
        {d.replay && <p className="border-l-4 border-ochre pl-3">Gone on with from a job before: it is not counted.</p>}
        <Score d={d} />
        <Sheet title="What was the matter">
          <ul className="list-none p-0">
            {d.truth.map((t) => (
              <li key={t} className="mb-2 border-l-4 border-ochre pl-3">
                {t}
              </li>
            ))}
          </ul>
          {d.lessons.map((l) => (
            <p key={l} className="mt-2">
              {l}
            </p>
          ))}
        </Sheet>
      </div>
      <div className="grid min-w-0 content-start gap-3">
        <Beside d={d} />
        <Touches title="Every step, and what followed" rows={d.deeds} onFrom={exam ? undefined : (before) => commands.replayPractice(key, before).then((r) => navigate(`/practice/${r.key}`))} />
        <Touches title={`An expert, ${span(d.expert_s)}`} rows={d.expert} />
      </div>
    </div>
  );
}

function Score({ d }: { d: DebriefOut }) {
  return (
    <Sheet strong>
      <p className="flex items-baseline gap-3">
        <span className="figure text-reading leading-none font-bold">{Math.round(d.total)}</span>
        <span className="text-soft">of 100. You took {span(d.spent_s)}, a sound hand {span(d.expert_s)}.</span>
      </p>
      <ul className="mt-3 list-none p-0">
        {d.marks.map((m) => (
          <li key={m.skill} className="border-t-2 border-rule py-2">
            <Bar words={m.words} score={m.score ?? null} />
            <ul className="mt-1 list-none p-0 text-note text-soft">
              {m.lines.map((l, i) => (
                <li key={i}>{l}</li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A skill's score as a ruled bar; hatched where it was not asked. */
export function Bar({ words, score, note }: { words: string; score: number | null; note?: string }) {
  return (
    <div className="grid grid-cols-[92px_minmax(0,1fr)_54px] items-center gap-2">
      <span className="font-bold">{words}</span>
      <span className="h-4 rounded-[3px] border-2 border-ink" style={score === null ? { background: "repeating-linear-gradient(135deg, var(--rule) 0 4px, transparent 4px 9px)" } : undefined}>
        {score !== null && <span className="block h-full bg-green" style={{ width: `${score}%` }} />}
      </span>
      <span className="figure text-right font-bold">{score === null ? "—" : Math.round(score)}</span>
      {note && <span className="col-span-3 text-note text-soft">{note}</span>}
    </div>
  );
}

/** The gauge in ink; what was true at the worst spot in pencil. */
function Beside({ d }: { d: DebriefOut }) {
  const narrow = useNarrow();
  const u = useUnits();
  const series = useMemo<SeriesOut[]>(() => [ink("gauge", d.own_path.at, d.own_path.shown)], [d]);
  const { own_path: own, expert_path: expert } = d;
  const events = d.deeds.filter((x) => !x.before && x.said.some((c) => c.severity === "stop")).map((x) => ({ at: x.at, label: "!", pa: null }));
  const end = Math.max(600, own.at.at(-1) ?? 600, expert.at.at(-1) ?? 600);
  return (
    <Sheet title="The gauge, and what was true" className="p-3!">
      <Trace
        label="What the gauge said in ink, the true pressure at the worst spot in pencil"
        series={series}
        log
        height={narrow ? 250 : 320}
        from={0}
        to={end * 1.03}
        bottom={10}
        pencils={[pencil(own.at, own.highest, 0), pencil(own.at, own.true, 1), { ...pencil(expert.at, expert.shown, 3), strong: true }]}
        levels={[{ pa: d.target_pa, label: `target ${u.say("pressure", d.target_pa)}`, tone: "green" }]}
        events={events}
        time={(t) => elapsed(t)}
      />
      <p className="mt-1 flex flex-wrap gap-x-5 text-note text-soft">
        <span>
          <span className="mr-1 inline-block h-[3px] w-6 bg-measure align-middle" /> the gauge
        </span>
        <span>
          <span className="mr-1 inline-block w-6 border-t-2 border-dashed border-pencil align-middle" /> true, at the worst spot and at the gauge
        </span>
        <span>
          <span className="mr-1 inline-block w-6 border-t-[3px] border-dashed border-soft align-middle" /> an expert&apos;s gauge on the same job
        </span>
        <span>! a step that should not have been made</span>
      </p>
    </Sheet>
  );
}

/** Whether something went wrong at a step: from there it is worth doing over. */
const slipped = (r: JudgedOut) => r.said.some((c) => c.severity !== "note") || (r.right !== "" && r.right !== "right");

function Touches({ title, rows, onFrom }: { title: string; rows: JudgedOut[]; onFrom?: (before: number) => Promise<unknown> }) {
  const u = useUnits();
  const say = (pa: number | null | undefined) => (pa === null || pa === undefined ? "—" : u.say("pressure", pa));
  return (
    <Sheet title={title}>
      <div className="max-h-[60vh] overflow-auto" tabIndex={0} role="region" aria-label={title}>
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="border-b-2 border-ink text-note">
              <th className="py-1 pr-2">at</th>
              <th className="py-1 pr-2">what</th>
              <th className="py-1 pr-2 text-right">gauge</th>
              <th className="py-1 text-right">worst spot</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => (
              <tr key={i} className="border-b border-rule align-top">
                <td className="figure py-1.5 pr-2 whitespace-nowrap">{elapsed(r.at)}</td>
                <td className="py-1.5 pr-2">
                  {r.words}
                  {r.before && <span className="text-soft"> (before)</span>}
                  {r.right && (
                    <span className="ml-2">
                      <Tag tone={r.right === "right" ? "pass" : "stop"}>{r.right}</Tag>
                    </span>
                  )}
                  {r.showed && <span className="block text-soft">{r.showed}</span>}
                  {r.reason && r.reason !== rows[i - 1]?.reason && <span className="block text-note text-soft italic">{r.reason}</span>}
                  {r.said
                    .filter((c) => c.severity !== "note")
                    .map((c) => (
                      <span key={c.words} className={`mt-1 block border-l-[5px] pl-2 ${c.severity === "stop" ? "border-stop" : "border-ochre"}`}>
                        <Tag tone={c.severity === "stop" ? "stop" : "caution"}>{c.severity}</Tag> {c.words}. <span className="text-soft">{c.why}</span>
                      </span>
                    ))}
                  {onFrom && slipped(r) && r.number !== null && r.number !== undefined && (
                    <Button kind="quiet" className="mt-1 px-0! font-normal underline" onClick={() => onFrom(r.number!)}>
                      Go on from before this
                    </Button>
                  )}
                </td>
                <td className="figure py-1.5 pr-2 text-right whitespace-nowrap">{say(r.shown_pa)}</td>
                <td className="py-1.5 text-right">
                  <span className="figure whitespace-nowrap">{say(r.highest_pa)}</span>
                  {r.highest_pa !== null && r.highest_pa !== undefined && <span className="block text-note text-soft">{r.worst}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Sheet>
  );
}
