import { Fragment } from "react";

import type { ChangesOut, PlanOut } from "../api/client";
import { span } from "../lib/format";
import { Button } from "../ui/Button";
import { Tag } from "../ui/Sheet";
import { capital } from "../lib/capital";
import { Waits } from "../ui/Waits";

const SOURCE: Record<string, string> = { hand: "by hand", kit: "in the van", buy: "to buy" };

/** What to change first: every single change, ranked by the time it saves. */
export function Changes({ changes, plan, onTake }: { changes: ChangesOut | undefined; plan: PlanOut; onTake: (key: string) => void }) {
  if (!changes) return <Waits>Trying every change…</Waits>;
  const gets = plan.time_to_target_s !== null && plan.time_to_target_s !== undefined;
  return (
    <>
      {changes.upgrades.length === 0 ? (
        <p>No single change would save more than a second. This rig is as good as it gets for this job.</p>
      ) : (
        <ol className="max-h-[430px] list-none overflow-auto p-0" data-testid="changes">
          {changes.upgrades.map((c) => (
            <li key={c.key} className="flex items-center gap-3 border-t border-rule py-1.5 first:border-0 first:pt-0">
              <div className="min-w-0 flex-1">
                <div className="font-bold">{c.change}</div>
                <div className="text-soft">
                  {gets ? "saves " : "gets there in "}
                  <span className="figure text-ink">{span(gets ? c.seconds_saved.value : c.time_to_target_s)}</span>
                  {gets && c.seconds_saved.high - c.seconds_saved.low > 2 && (
                    <>
                      {" "}
                      ({span(Math.max(0, c.seconds_saved.low))} to {span(c.seconds_saved.high)})
                    </>
                  )}
                  , {SOURCE[c.source]}
                </div>
              </div>
              <Button aria-label={`Use: ${c.change}`} onClick={() => onTake(c.key)}>
                Use
              </Button>
            </li>
          ))}
        </ol>
      )}
      {changes.unknowns[0] && gets && (
        <p className="mt-3 border-t-2 border-rule pt-3 text-soft">
          Least sure: <b className="text-ink">{changes.unknowns[0].name}</b>, {span(Math.min(changes.unknowns[0].low_s, changes.unknowns[0].high_s))} or{" "}
          {reach(Math.max(changes.unknowns[0].low_s, changes.unknowns[0].high_s))}. To narrow it, {changes.unknowns[0].measure}.
        </p>
      )}
    </>
  );
}

const INKS: Record<string, string> = { pump: "bg-ink", rig: "bg-pencil", lines: "bg-strong", rubber: "bg-stop", water: "bg-measure", oil: "bg-ochre" };

/** What of the time to the target goes to what, as one bar and in figures. */
export function Shares({ changes }: { changes: ChangesOut | undefined }) {
  if (!changes) return null;
  const whole = changes.shares.reduce((sum, s) => sum + s.seconds, 0);
  const rows = changes.shares.filter((s) => s.seconds > 0.02 * whole || s.endless).sort((a, b) => b.seconds - a.seconds);
  return (
    <div data-testid="time-shares">
      <div className="flex h-3 w-full overflow-hidden border border-rule" aria-hidden="true">
        {rows.map((s) => (
          <span key={s.taker} className={INKS[s.taker]} style={{ width: `${(100 * s.seconds) / whole}%` }} />
        ))}
      </div>
      <dl className="mt-2 grid grid-cols-[14px_1fr_auto] items-center gap-x-2 gap-y-1">
        {rows.map((s) => (
          <Fragment key={s.taker}>
            <span className={`h-3 w-3 ${INKS[s.taker]}`} aria-hidden="true" />
            <dt>{s.name}</dt>
            {s.endless ? <dd>keeps it from getting there</dd> : <dd className="figure">{span(s.seconds)}</dd>}
          </Fragment>
        ))}
      </dl>
      {rows[0] && (
        <p className="mt-3 border-t-2 border-rule pt-3">
          <b>{rows[0].name}</b> takes most of it. {rows[0].about}
        </p>
      )}
    </div>
  );
}

const DAY = 24 * 3600;
const reach = (seconds: number) => (seconds >= DAY ? "not within a day" : span(seconds));

const GRAVE = ["stop", "caution", "note"];

/** What is wrong with the rig, each with its fix one touch away. */
export function Findings({ plan, saves, onFix, onShow }: { plan: PlanOut; saves: Record<string, number>; onFix: (key: string) => void; onShow: (part: string) => void }) {
  if (plan.findings.length === 0) return <p>No findings.</p>;
  const gets = Boolean(plan.time_to_target_s);
  // The gravest first, and of those alike what saves most.
  const ranked = [...plan.findings].sort((a, b) => GRAVE.indexOf(a.severity) - GRAVE.indexOf(b.severity) || (saves[b.key] ?? 0) - (saves[a.key] ?? 0));
  return (
    <ul className="max-h-[470px] list-none overflow-auto p-0" data-testid="findings">
      {ranked.map((f) => (
        <li key={f.key} className="border-t border-rule py-2 first:border-0 first:pt-0">
          <div className="flex items-baseline gap-2">
            <Tag tone={f.severity === "note" ? "plain" : f.severity}>{f.severity}</Tag>
            <button type="button" className="min-h-8 flex-1 text-left font-bold" onClick={() => onShow(f.place)}>
              {f.title}
            </button>
          </div>
          <p className="mt-1 text-soft">
            {f.why}
            {gets && (saves[f.key] ?? 0) > 30 && (
              <>
                {" "}
                The fix saves <span className="figure text-ink">{span(saves[f.key]!)}</span>.
              </>
            )}
          </p>
          {f.fix && (
            <Button className="mt-1.5" onClick={() => onFix(f.key)}>
              {capital(f.fix)}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

const SAYS = { yes: "pass", partly: "caution", no: "stop" } as const;

/** The six questions a hook-up must answer. */
export function Questions({ plan }: { plan: PlanOut }) {
  return (
    <dl className="grid gap-2" data-testid="questions">
      {plan.questions.map((q) => (
        <div key={q.letter} className="grid grid-cols-[24px_84px_1fr] items-baseline gap-2 border-t border-rule pt-2 first:border-0 first:pt-0">
          <span className="figure font-bold">{q.letter}</span>
          <span>
            <Tag tone={SAYS[q.says]}>{q.says}</Tag>
          </span>
          <div>
            <dt className="font-bold">{q.question}</dt>
            <dd className="text-soft">{q.words}</dd>
          </div>
        </div>
      ))}
    </dl>
  );
}
