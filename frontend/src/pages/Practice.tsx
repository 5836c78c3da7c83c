import { useQueryClient } from "@tanstack/react-query";
import { Dices, Plus, Trash2, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { PracticeOut, ScenarioCard } from "../api/client";
import { refresh } from "../api/options";
import { commands, hrefs } from "../api/commands";
import { ApiError } from "../api/client";
import { usePractice } from "../api/practice";
import { stamp } from "../lib/format";
import { Compose } from "../practice/Compose";
import { Exams } from "../practice/Exams";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { Bar } from "./PracticeDebrief";
import { capital } from "../lib/capital";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

const LEVELS = ["", "easy", "plain", "fair", "hard", "mean"];

/** Simulated jobs with a hidden truth: what to try next, skills so far, all scenarios, one's own. */
export function Practice() {
  useTitle("Practice");
  const found = usePractice();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [fault, setFault] = useState<ApiError | null>(null);
  const [composing, setComposing] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fail = (e: unknown) => e instanceof ApiError && setFault(e);
  const begin = (scenario: string) => commands.beginPractice(scenario).then((r) => void navigate(`/practice/${r.key}`), fail);
  const again = () => refresh(client, ["practice"]);
  if (found.error && !found.data) return <Fault title="Practice cannot be opened" detail={found.error.message} />;
  if (!found.data) return <Waits>Opening…</Waits>;
  const p = found.data;
  const next = p.scenarios.find((s) => s.key === p.next);
  const open = p.runs.filter((r) => !r.ended_at);
  const over = p.runs.filter((r) => r.ended_at);
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_340px]">
      <header className="lg:col-span-2">
        <h1 className="text-title">Practice</h1>
        <p className="text-soft">Simulated jobs. What is wrong is hidden; the gauge says only what a gauge says. Nothing here can be hurt.</p>
      </header>
      {fault && (
        <div className="lg:col-span-2">
          <Fault title={fault.problem.title} detail={fault.problem.detail} faults={fault.problem.faults} />
        </div>
      )}
      <div className="grid min-w-0 content-start gap-3">
        {next ? (
          <Sheet strong>
            <div className="flex flex-wrap items-start justify-between gap-3">
              <div className="min-w-0">
                <Tag tone="plain">next: {p.why}</Tag>
                <p className="casual mt-2 text-title leading-tight font-extrabold">{next.title}</p>
                <p className="mt-1 max-w-prose">{next.brief}</p>
              </div>
              <Button kind="solid" onClick={() => begin(next.key)}>
                Begin
              </Button>
            </div>
          </Sheet>
        ) : (
          <Sheet strong>{p.why}</Sheet>
        )}
        {open.length > 0 && (
          <Sheet title="Begun, not over">
            <ul className="list-none p-0">
              {open.map((r) => (
                <li key={r.key} className="flex items-center justify-between gap-2 border-b border-rule last:border-b-0">
                  <Link to={`/practice/${r.key}`} className="flex min-h-12 flex-1 items-center underline">
                    {r.title}, {stamp(r.began_at)}
                  </Link>
                  <Button kind="quiet" aria-label={`Remove ${r.title}`} onClick={() => commands.dropPractice(r.key).then(again, fail)}>
                    <Trash2 size={18} aria-hidden />
                  </Button>
                </li>
              ))}
            </ul>
          </Sheet>
        )}
        <Scenarios cards={p.scenarios} onBegin={begin} onRemove={(key) => commands.dropScenario(key).then(again, fail)} />
      </div>
      <div className="grid content-start gap-3">
        <Path p={p} onBegin={begin} />
        <Skills p={p} />
        <Sheet title="Try things out">
          <p className="text-soft">Your own system and rig, anything wrong with it, and what is so beside what is read.</p>
          <Link to="/practice/sandbox" className="inline-flex min-h-12 items-center underline">
            To the sandbox
          </Link>
          <p className="text-soft">Or two rigs on one system, both draws on one sheet.</p>
          <Link to="/practice/race" className="inline-flex min-h-12 items-center underline">
            Race two rigs
          </Link>
        </Sheet>
        <FromNumber onBegin={begin} />
        <Exams onFault={fail} />
        <Sheet title="For trainers">
          <div className="grid gap-2">
            <Link to="/practice/class" className="inline-flex min-h-12 items-center underline">
              How everybody stands
            </Link>
            <Button onClick={() => setComposing(true)} className="flex items-center gap-2">
              <Plus size={18} aria-hidden /> Compose a scenario
            </Button>
            <Button onClick={() => file.current?.click()} className="flex items-center gap-2">
              <Upload size={18} aria-hidden /> Read a shared one
            </Button>
            <input
              ref={file}
              type="file"
              accept=".json,application/json"
              className="hidden"
              aria-label="Scenario file"
              onChange={(e) => {
                const chosen = e.target.files?.[0];
                e.target.value = "";
                if (!chosen) return;
                void commands.takeScenario(chosen).then(() => (setFault(null), again()), fail);
              }}
            />
          </div>
        </Sheet>
        {over.length > 0 && (
          <Sheet title="Debriefs">
            <ul className="list-none p-0">
              {over.slice(0, 8).map((r) => (
                <li key={r.key}>
                  <Link to={`/practice/${r.key}/debrief`} className="flex min-h-12 items-center justify-between gap-3">
                    <span className="underline">
                      {r.title}
                      {r.replay && <span className="text-soft"> (done over)</span>}
                    </span>
                    <span className="figure font-bold">{r.total === null || r.total === undefined ? "—" : Math.round(r.total)}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </Sheet>
        )}
      </div>
      <Modal open={composing} onClose={() => setComposing(false)} title="Compose a scenario" wide>
        <Compose
          onDone={() => {
            setComposing(false);
            again();
          }}
        />
      </Modal>
    </div>
  );
}

function Scenarios({ cards, onBegin, onRemove }: { cards: ScenarioCard[]; onBegin: (key: string) => Promise<unknown>; onRemove: (key: string) => Promise<unknown> }) {
  return (
    <>
      {[1, 2, 3, 4, 5].map((level) => {
        const mine = cards.filter((c) => c.level === level);
        if (mine.length === 0) return null;
        return (
          <Sheet key={level} title={capital(LEVELS[level]!)} aside={`${mine.length}`} fold={`practice-${level}`}>
            <ul className="grid list-none gap-2 p-0 md:grid-cols-2">
              {mine.map((c) => (
                <li key={c.key} className="flex flex-col rounded-[5px] border-2 border-strong p-3">
                  <div className="flex items-baseline justify-between gap-2">
                    <h3 className="text-lead">{c.title}</h3>
                    {c.best !== null && c.best !== undefined && <span className="figure font-bold">{Math.round(c.best)}</span>}
                  </div>
                  <p className="text-note text-soft">{c.place}</p>
                  <p className="mt-1 flex-1">{c.brief}</p>
                  <div className="mt-2 flex items-center gap-2">
                    <Button onClick={() => onBegin(c.key)} aria-label={`Begin: ${c.title}`}>
                      {c.tries > 0 ? "Again" : "Begin"}
                    </Button>
                    <Tag tone="plain">{c.ends === "release" ? "to the release" : "to the verdict"}</Tag>
                    {c.own && (
                      <>
                        <a href={hrefs.scenario(c.key)} download className="ml-auto inline-flex min-h-12 items-center underline">
                          Share
                        </a>
                        <Button kind="quiet" aria-label={`Remove ${c.title}`} onClick={() => onRemove(c.key)}>
                          <Trash2 size={18} aria-hidden />
                        </Button>
                      </>
                    )}
                  </div>
                </li>
              ))}
            </ul>
          </Sheet>
        );
      })}
    </>
  );
}

/** The path through a job: where somebody stands in each stretch, and the easiest of it that is not done well yet. */
function Path({ p, onBegin }: { p: PracticeOut; onBegin: (key: string) => Promise<unknown> }) {
  return (
    <Sheet title={p.who ? `The path of ${p.who}` : "Your path"}>
      <ol className="list-none p-0">
        {p.path.map((s) => (
          <li key={s.stretch} className="border-b border-rule py-2 last:border-b-0">
            <Bar words={s.words} score={s.score ?? null} />
            <p className="flex items-center justify-between gap-2 text-note text-soft">
              <span>
                <span className="figure">{s.well}</span> of <span className="figure">{s.of}</span> done well
              </span>
              {s.next && (
                <Button kind="quiet" className="px-0! text-right font-normal underline" onClick={() => onBegin(s.next!)}>
                  {s.title}
                </Button>
              )}
            </p>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

function Skills({ p }: { p: PracticeOut }) {
  return (
    <Sheet title="Your skills" aside="last 8 jobs" fold="practice-skills">
      <ul className="grid list-none gap-2 p-0">
        {p.skills.map((s) => (
          <li key={s.skill}>
            <Bar words={s.words} score={s.score ?? null} />
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A scenario from a number: the same number, the same scenario, for whoever types it. */
function FromNumber({ onBegin }: { onBegin: (key: string) => Promise<unknown> }) {
  const [number, setNumber] = useState<number | null>(() => Math.floor(Math.random() * 99_999));
  const [level, setLevel] = useState("2");
  return (
    <Sheet title="From a number" fold="practice-number">
      <div className="grid gap-3">
        <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
          <NumberField key={number} label="Number" value={number} onChange={(v) => setNumber(v === null ? null : Math.round(v))} min={0} max={999_999_999} />
          <Button aria-label="Another number" onClick={() => setNumber(Math.floor(Math.random() * 99_999))}>
            <Dices size={20} aria-hidden />
          </Button>
        </div>
        <Segments label="How hard" value={level} onChange={setLevel} options={[1, 2, 3, 4, 5].map((n) => ({ value: String(n), label: String(n) }))} />
        <Button disabled={number === null} onClick={() => onBegin(`made-${level}-${number}`)}>
          Begin it
        </Button>
      </div>
    </Sheet>
  );
}
