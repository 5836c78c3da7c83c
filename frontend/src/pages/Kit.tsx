import { Link } from "react-router";

import type { KitCard } from "../api/client";
import { hrefs } from "../api/commands";
import { useKit, usePurchases } from "../api/queries";
import { MICRON_PA, span } from "../lib/format";
import { useSaveSettings, useSettings, useUnits } from "../lib/units";
import { FileLink } from "../ui/Button";
import { NumberField, TextField } from "../ui/Field";
import { AddPart } from "../kit/AddPart";
import { ByCode, ByHand } from "../kit/ByCode";
import { Sheet, Tag } from "../ui/Sheet";
import { useTitle } from "../lib/title";
import { Waits } from "../ui/Waits";

const KINDS: Record<string, string> = {
  pump: "Pumps",
  hose: "Hoses",
  tool: "Core tools",
  gauge: "Gauges",
  manifold: "Manifolds",
  tee: "Tees",
  scale: "Scales",
  cord: "Cords",
  cylinder: "Cylinders",
  core: "Cores",
  adapter: "Adapters",
};

/** What is in the van, as the rig can use it, and what would have been worth buying. */
export function Kit() {
  useTitle("Kit");
  const { data, isPending } = useKit();
  const kit = data ?? [];
  return (
    <>
      <header className="mb-4 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-title">Kit</h1>
          <p className="text-soft">Pumps, hoses, gauges and core tools, with what is on file of each.</p>
        </div>
        <FileLink href={hrefs.labels}>
          Labels with codes
        </FileLink>
        <FileLink href={hrefs.kitTable}>
          Table
        </FileLink>
      </header>
      {isPending && <Waits>Looking in the van…</Waits>}
      <ByCode kit={kit} />
      <AddPart />
      <Due kit={kit} />
      {data && kit.length === 0 && <p className="sheet p-6">No kit is listed. The rig can be put together from the catalogue all the same.</p>}
      <div className="mb-4 gap-4 md:columns-3">
        {Object.entries(KINDS).map(([kind, label]) => {
          const items = kit.filter((k) => k.kind === kind);
          return items.length === 0 ? null : (
            <Sheet key={kind} title={label} aside={items.length} className="mb-4 break-inside-avoid">
              <ul className="list-none p-0">
                {items.map((k) => (
                  <li key={k.id} className="border-t border-rule py-2 first:border-0">
                    <Card item={k} />
                  </li>
                ))}
              </ul>
            </Sheet>
          );
        })}
      </div>
      <Purchases />
    </>
  );
}

/** What waits for a hand: oil, calibration, doubtful parts. */
function Due({ kit }: { kit: KitCard[] }) {
  const due = kit.filter((k) => ["due", "doubtful", "bad"].includes(k.state));
  if (due.length === 0) return null;
  return (
    <Sheet title="Needs attention" aside={due.length} className="mb-4">
      <ul className="list-none p-0">
        {due.map((k) => (
          <li key={k.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-rule py-1.5 first:border-0">
            <b>{k.name}</b> <Tag tone={TONES[k.state] ?? "caution"}>{k.state}</Tag> <span className="text-soft">{k.words}</span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

const TONES: Record<string, "pass" | "caution" | "stop"> = { good: "pass", usable: "caution", due: "caution", doubtful: "caution", bad: "stop" };

/** A part with how it stands, and what is on file of it. */
function Card({ item }: { item: KitCard }) {
  const u = useUnits();
  const head = (
    <span className="flex min-h-12 flex-1 items-center justify-between gap-2">
      <span>{item.name}</span>
      {item.state ? <Tag tone={TONES[item.state] ?? "caution"}>{item.state}</Tag> : <Words values={item.values} />}
    </span>
  );
  return (
    <details id={`kit-${item.id}`}>
      <summary className="flex cursor-pointer list-none">{head}</summary>
      {item.words && <p className="mb-2 text-note">{item.words}</p>}
      <Trend item={item} />
      <ByHand item={item} />
      <ul className="list-none p-0 text-note">
        {item.events.map((e) => (
          <li key={`${e.kind}${e.job}`} className="flex gap-2 border-t border-rule py-1.5">
            <span className="figure flex-none text-soft">{day(e.at)}</span>
            <span className="min-w-0 flex-1">
              {e.words}
              {e.micron !== null && e.micron !== undefined && <span className="figure">, {u.say("pressure", (e.micron * 101325) / 760000)}</span>}
              {e.inflow_pa_m3_s !== null && e.inflow_pa_m3_s !== undefined && <span className="figure">, {u.scientific(e.inflow_pa_m3_s)} Pa·m³/s</span>}
              {e.hours !== null && e.hours !== undefined && <span className="figure">, {span(e.hours * 3600)}</span>}
              {e.verdict && <b> {e.verdict}</b>}
              {e.title && (
                <>
                  {" "}
                  <Link className="underline" to={`/jobs/${e.job}/prove`}>
                    {e.title}
                  </Link>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

const day = (at: number): string => new Date(at * 1000).toISOString().slice(0, 10);

/** The readings of a part over its jobs, oldest at the left. */
function Trend({ item }: { item: KitCard }) {
  const u = useUnits();
  const values = item.events.filter((e) => e.kind === "blank-off" && typeof e.micron === "number").map((e) => e.micron!).reverse();
  if (values.length < 2) return null;
  const top = Math.max(...values, 100);
  const step = 200 / (values.length - 1);
  const y = (v: number) => 44 - (40 * v) / top;
  return (
    <svg viewBox="0 0 216 52" className="mb-1 w-full max-w-xs" role="img" aria-label={`Blank-off over ${values.length} jobs, ${u.say("pressure", values[0]! * MICRON_PA)} to ${u.say("pressure", values[values.length - 1]! * MICRON_PA)}`}>
      <path d={`M8 ${y(100)}H208`} stroke="var(--stop)" strokeDasharray="4 4" />
      <path d={`M${values.map((v, i) => `${8 + step * i} ${y(v)}`).join("L")}`} fill="none" stroke="var(--measure)" strokeWidth="2.5" />
      {values.map((v, i) => (
        <circle key={i} cx={8 + step * i} cy={y(v)} r="3.5" fill="var(--measure)" />
      ))}
    </svg>
  );
}

function Words({ values }: { values: Record<string, unknown> }) {
  const u = useUnits();
  const micron = 101325 / 760000;
  if (values.made_for === "pressure") return <Tag tone="caution">charging hose</Tag>;
  if (values.oil === "used") return <Tag tone="caution">oil due</Tag>;
  if (typeof values.blank_off_micron === "number") return <span className="figure whitespace-nowrap text-soft">{u.say("pressure", values.blank_off_micron * micron)}</span>;
  if (typeof values.resolution_micron === "number") return <span className="figure whitespace-nowrap text-soft">±{u.say("pressure", values.resolution_micron * micron)}</span>;
  return null;
}

/** Minutes are money: what each purchase would have saved over the jobs on file. */
function Purchases() {
  const { data, isPending } = usePurchases();
  const settings = useSettings();
  const save = useSaveSettings();
  const u = useUnits();
  const s = settings.data?.settings;
  const most = Math.max(1, ...(data?.purchases ?? []).map((p) => p.seconds));
  return (
    <Sheet title="What would have been worth buying" aside={`over the ${data?.over ?? "…"} jobs on file`}>
      {(isPending || settings.isPending) && <Waits />}
      {s && (
        <div className="mb-3 grid max-w-lg grid-cols-2 gap-3">
          <NumberField label="An hour of the firm" unit={s.currency || "per h"} min={0} max={10000} value={s.hourly_rate} onChange={(v) => v !== null && save.mutate({ ...s, hourly_rate: v })} />
          <TextField label="Currency" value={s.currency ?? ""} onChange={(v) => save.mutate({ ...s, currency: v })} />
        </div>
      )}
      {data?.purchases.length === 0 && <p>No purchase would have saved more than a second on these jobs.</p>}
      <ul className="list-none p-0">
        {(data?.purchases ?? []).map((p) => (
          <li key={p.key} className="grid items-center gap-x-4 border-t border-rule py-2 first:border-0 sm:grid-cols-[260px_1fr_110px_120px]">
            <b>{p.words}</b>
            <span className="h-3 bg-rule" aria-hidden>
              <span className="block h-3 bg-pencil" style={{ width: `${Math.max(1, (100 * p.seconds) / most)}%` }} />
            </span>
            <span className="figure sm:text-right">{span(p.seconds)}</span>
            <span className="figure sm:text-right">
              {u.whole(p.money)} {data?.currency} <span className="text-soft">{p.jobs === 1 ? "1 job" : `${p.jobs} jobs`}</span>
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-soft">Waiting is counted as work, so this is the most it could be. A rig that never got there counts a day.</p>
    </Sheet>
  );
}
