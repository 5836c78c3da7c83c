import { Link } from "react-router";

import type { PumpOut } from "../api/client";
import { useAhead, usePumps } from "../api/queries";
import { clock } from "../lib/format";
import { Sheet, Tag } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** What each pump is doing. */
export function Pumps() {
  const { data: pumps = [], isPending } = usePumps();
  if (isPending) return <Waits />;
  if (pumps.length === 0) return null;
  return (
    <Sheet title="Pumps">
      <ul className="list-none p-0">
        {pumps.map((p) => (
          <li key={p.pump} className="border-b border-rule py-2 last:border-b-0">
            <div className="flex items-baseline justify-between gap-2">
              <span className="font-bold">{p.pump}</span>
              <Tag tone={p.doing === "runs" ? "pass" : "plain"}>{p.doing === "planned" ? "next" : p.doing}</Tag>
            </div>
            {p.job && (
              <Link to={`/jobs/${p.job}/draw`} className="block min-h-11 content-center text-soft hover:underline">
                {p.at !== null && p.at !== undefined && <span className="figure mr-2 font-bold text-ink">{clock(p.at)}</span>}
                {says(p)}
              </Link>
            )}
            {p.also.length > 0 && <p className="text-stop">also logged as running on {p.also.join(" and ")}</p>}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

const WORDS: Record<string, string> = { runs: "since then on", stands: "stopped at", planned: "to start at" };
const says = (p: PumpOut): string => `${WORDS[p.doing] ?? ""} ${p.title}`;

/** The touches ahead over all jobs, by the clock. */
export function Ahead() {
  const { data: ahead = [], isPending } = useAhead();
  return (
    <Sheet title="Ahead" aside={<Link to="/day" className="underline">the whole day</Link>}>
      {isPending && <Waits />}
      {!isPending && ahead.length === 0 && <p className="text-soft">Nothing is planned ahead.</p>}
      <ol className="list-none p-0">
        {ahead.map((t, i) => (
          <li key={i} className="border-b border-rule last:border-b-0">
            <Link to={`/jobs/${t.job}/draw`} className="flex min-h-12 items-center gap-3 hover:underline">
              <span className="figure font-bold">{clock(t.at)}</span>
              <span className="min-w-0 leading-tight">
                {t.title}
                <span className="block truncate text-note text-soft">{t.where}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
