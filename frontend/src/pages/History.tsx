import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { HistoryOut } from "../api/client";
import { options } from "../api/options";
import { commands } from "../api/commands";
import { MICRON_PA, stamp } from "../lib/format";
import { useUnits } from "../lib/units";
import { toneOf } from "../hold/words";
import { Backup } from "../record/Backup";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { TextField } from "../ui/Field";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

const ALL = "all";
type Row = HistoryOut["rows"][number];

/** Earlier evacuations by customer and site: what each hold said, and how it goes from one to the next. */
export function History() {
  useTitle("Earlier jobs");
  const u = useUnits();
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const [customer, setCustomer] = useState(ALL);
  const [site, setSite] = useState(ALL);
  const [fault, setFault] = useState("");
  const seen = useQuery(options.history(words, customer === ALL ? "" : customer, site === ALL ? "" : site));
  const rows = seen.data?.rows ?? [];
  const next = (key: string) =>
    commands.copyJob(key).then(
      (j) => void navigate(`/jobs/${j.key}/scope`),
      (e: unknown) => setFault(e instanceof Error ? e.message : "not copied"),
    );
  const units = [...new Set(rows.map((r) => `${r.customer}|${r.unit}`))];
  const choices = (list: string[] | undefined, any: string) => [{ value: ALL, label: any }, ...(list ?? []).map((s) => ({ value: s, label: s }))];
  return (
    <div className="grid gap-3">
      <header className="flex flex-wrap items-baseline gap-3">
        <div className="mr-auto">
          <h1 className="text-title">History</h1>
          <p className="text-soft">Earlier evacuations.</p>
        </div>
        {seen.data && (
          <p className="text-soft">
            {rows.length} of {seen.data.total}
          </p>
        )}
      </header>
      <div className="grid gap-3 md:grid-cols-3">
        <TextField label="Search" value={words} onChange={setWords} />
        <SelectField label="Customer" value={customer} options={choices(seen.data?.customers, "every customer")} onChange={setCustomer} />
        <SelectField label="Site" value={site} options={choices(seen.data?.sites, "every site")} onChange={setSite} />
      </div>
      {fault && <Fault title="Not copied" detail={fault} />}
      {seen.error && <Fault title="The history cannot be shown" detail={seen.error.message} />}
      {seen.isPending && <Waits>Looking through the records…</Waits>}
      {seen.data && rows.length === 0 && (
        <Sheet className="text-center">
          <h2 className="text-order">Nothing found</h2>
          <p className="text-soft">No evacuation holds these words. Fewer words find more.</p>
        </Sheet>
      )}
      {units.map((unit) => (
        <Unit key={unit} rows={rows.filter((r) => `${r.customer}|${r.unit}` === unit)} rate={(x) => u.rate(x)} level={(x) => u.say("pressure", x * MICRON_PA)} onNext={(key) => void next(key)} />
      ))}
      <Backup />
    </div>
  );
}

/** One system with its evacuations; where there are several, how fast each hold rose at its end. */
function Unit({ rows, rate, level, onNext }: { rows: Row[]; rate: (x: number) => string; level: (x: number) => string; onNext: (key: string) => void }) {
  const first = rows[0]!;
  const rates = rows.flatMap((r) => (r.slope_micron_s !== null && r.slope_micron_s !== undefined ? [{ at: r.at, rate: r.slope_micron_s }] : []));
  return (
    <Sheet title={`${first.customer || "Unnamed"}${first.unit ? `, ${first.unit}` : ""}`} aside={first.site}>
      {rates.length > 1 && <Trend points={[...rates].reverse()} say={rate} />}
      <ul className="list-none p-0">
        {rows.map((r) => (
          <li key={r.key} className="grid items-center gap-x-4 gap-y-1 border-t-2 border-rule py-2 first:border-0 md:grid-cols-[175px_1fr_auto_auto]">
            <span className="figure">{stamp(r.at)}</span>
            <span>
              <Link to={`/jobs/${r.key}/hold`} className="font-bold underline">
                {r.sentence}
              </Link>{" "}
              <span className="text-soft">
                {[
                  r.level_micron !== null && r.level_micron !== undefined ? level(r.level_micron) : "",
                  r.slope_micron_s !== null && r.slope_micron_s !== undefined ? rate(r.slope_micron_s) : "",
                  r.technician,
                ]
                  .filter(Boolean)
                  .join(", ")}
              </span>
            </span>
            <span className="flex gap-2">
              {r.verdict && <Tag tone={toneOf(r.verdict)}>{r.refrigerant}</Tag>}
              {r.sealed && <Tag tone="plain">sealed</Tag>}
            </span>
            <Button onClick={() => onNext(r.key)}>Start the next</Button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** How fast each hold rose at its end, from the first to the last. */
function Trend({ points, say }: { points: { at: number; rate: number }[]; say: (x: number) => string }) {
  const [W, H] = [320, 60];
  const most = Math.max(0.1, ...points.map((p) => p.rate));
  const x = (i: number) => 8 + ((W - 16) * i) / (points.length - 1);
  const y = (r: number) => H - 8 - ((H - 16) * Math.max(0, r)) / most;
  return (
    <figure className="mb-2">
      <svg viewBox={`0 0 ${W} ${H}`} className="h-[60px] w-full max-w-[320px]" role="img" aria-label={`Rises at the end of its holds: ${points.map((p) => say(p.rate)).join(", ")}`}>
        <polyline points={points.map((p, i) => `${x(i)},${y(p.rate)}`).join(" ")} fill="none" stroke="var(--measure)" strokeWidth="2.5" />
        {points.map((p, i) => (
          <circle key={p.at} cx={x(i)} cy={y(p.rate)} r="4" fill="var(--measure)" />
        ))}
      </svg>
      <figcaption className="text-note text-soft">
        Rise at the end of each hold: {say(points[0]!.rate)} first, {say(points[points.length - 1]!.rate)} last.
      </figcaption>
    </figure>
  );
}
