import type { RunOut } from "../api/client";
import { Tabs } from "../ui/Tabs";
import { takes } from "./elapsed";

type Deed = RunOut["groups"][number]["deeds"][number];

/** What hands can do, in groups; each with the minutes it takes. */
export function Hands({ run, busy, onDo }: { run: RunOut; busy: boolean; onDo: (kind: string) => void }) {
  return (
    <Tabs
      label="What to do"
      tabs={run.groups.map((g) => ({
        key: g.key,
        label: g.words,
        body: <Deeds deeds={g.deeds} run={run} busy={busy} onDo={onDo} />,
      }))}
    />
  );
}

/** A list of deeds as buttons. What was done already is ticked, and can be done again. */
export function Deeds({ deeds, run, busy, onDo }: { deeds: Deed[]; run: RunOut; busy: boolean; onDo: (kind: string) => void }) {
  const done = new Set(run.done.map((d) => d.kind));
  return (
    <ul className="grid max-h-[46vh] list-none gap-2 overflow-auto p-0 sm:grid-cols-2">
      {deeds.map((d) => (
        <li key={d.kind}>
          <button
            type="button"
            disabled={busy || run.ended !== ""}
            onClick={() => onDo(d.kind)}
            className="flex min-h-12 w-full items-center justify-between gap-3 rounded-[5px] border-2 border-strong bg-sheet px-3 py-2 text-left hover:border-ink disabled:opacity-60"
          >
            <span>
              {done.has(d.kind) && <span aria-label="done before">✓ </span>}
              {d.words}
            </span>
            <span className="figure flex-none text-soft">{takes(d.minutes)}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
