import { Link } from "react-router";

import { useClass } from "../api/practice";
import type { LearnerOut } from "../api/client";
import { stamp } from "../lib/format";
import { useTitle } from "../lib/title";
import { Fault, Sheet } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** For who trains them: everybody's points along the path, with each one's weakest stretch marked. */
export function PracticeClass() {
  useTitle("The class");
  const found = useClass();
  if (found.error && !found.data) return <Fault title="The class cannot be opened" detail={found.error.message} />;
  if (!found.data) return <Waits>Opening…</Waits>;
  const stretches = found.data[0]?.path ?? [];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4">
        <div>
          <h1 className="text-title">How everybody stands</h1>
          <p className="text-soft">Points over the last 8 jobs that train each stretch, played to an end unhelped. Who is at a browser is said on the page People.</p>
        </div>
        <Link to="/practice" className="inline-flex min-h-12 items-center underline">
          Practice
        </Link>
      </header>
      <Sheet>
        {found.data.length === 0 ? (
          <p className="text-soft">Nobody has ended a practice job yet.</p>
        ) : (
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The class">
            <table className="w-full border-collapse text-left">
              <thead>
                <tr className="border-b-2 border-ink text-note">
                  <th className="py-1 pr-3">who</th>
                  <th className="py-1 pr-3 text-right">jobs</th>
                  {stretches.map((s) => (
                    <th key={s.stretch} className="py-1 pr-3 text-right">
                      {s.words}
                    </th>
                  ))}
                  <th className="py-1 pr-3 text-right">all</th>
                  <th className="py-1">last</th>
                </tr>
              </thead>
              <tbody>
                {found.data.map((l) => (
                  <Learner key={l.name} l={l} />
                ))}
              </tbody>
            </table>
          </div>
        )}
      </Sheet>
    </div>
  );
}

function Learner({ l }: { l: LearnerOut }) {
  const scores = l.path.flatMap((s) => (s.score === null || s.score === undefined ? [] : [s.score]));
  const least = scores.length > 1 ? Math.min(...scores) : null;
  return (
    <tr className="border-b border-rule">
      <th scope="row" className="py-2 pr-3 font-bold">
        {l.name || "Nobody in particular"}
      </th>
      <td className="figure py-2 pr-3 text-right">{l.jobs}</td>
      {l.path.map((s) => (
        <td key={s.stretch} className="py-2 pr-3 text-right">
          <Points score={s.score ?? null} weakest={least !== null && s.score === least} />
        </td>
      ))}
      <td className="py-2 pr-3 text-right">
        <Points score={l.mean ?? null} />
      </td>
      <td className="py-2 whitespace-nowrap">{l.last_at ? stamp(l.last_at) : "—"}</td>
    </tr>
  );
}

function Points({ score, weakest = false }: { score: number | null; weakest?: boolean }) {
  if (score === null) return <span className="text-soft">—</span>;
  return (
    <span className={`figure font-bold ${weakest ? "border-b-4 border-ochre" : ""}`}>
      {Math.round(score)}
      {weakest && <span className="sr-only"> (weakest)</span>}
    </span>
  );
}
