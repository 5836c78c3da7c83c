import { Link } from "react-router";

import type { LiveOut, SeriesOut, VerdictOut } from "../api/client";
import { useReadings, useVerdict } from "../api/queries";
import { clock, mass, micron, percent, span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Trace } from "../trace/Trace";
import { Fault, Sheet, Tag } from "../ui/Sheet";
import { useNarrow } from "../lib/narrow";
import { NextCard } from "./Draw";
import type { StageProps } from "./types";

/** The hold: the verdict first, then why. */
export function Hold({ jobKey, live }: StageProps) {
  const verdict = useVerdict(jobKey, live?.phase === "hold" && live.standin);
  const readings = useReadings(jobKey);
  if (verdict.error) return <Fault title="The hold cannot be read" detail={verdict.error.message} />;
  if (verdict.isPending || !live) return <p className="text-soft">Reading the hold…</p>;
  if (!verdict.data)
    return (
      <Sheet className="mx-auto max-w-xl" strong>
        <h2 className="text-[24px]">No hold yet</h2>
        <p className="mt-2">
          The hold begins when the system is isolated. {live.started_at ? "The draw is still going." : "The pump has not been started."}
        </p>
        <Link to={`/jobs/${jobKey}/draw`} className="mt-3 inline-block min-h-12 py-3 font-bold underline">
          To the draw
        </Link>
      </Sheet>
    );
  return <Read v={verdict.data} live={live} series={readings.data ?? []} jobKey={jobKey} />;
}

const TONES: Record<string, "pass" | "caution" | "stop" | "plain"> = {
  "tight-and-dry": "pass",
  leak: "stop",
  moisture: "caution",
  "leak-and-moisture": "stop",
  "not-settled": "plain",
  invalid: "plain",
};
const BORDER = { pass: "border-green", caution: "border-ochre", stop: "border-stop", plain: "border-ink" };
const SHAPE = { pass: "✓", caution: "≈", stop: "↗", plain: "…" };
const INKS = { pass: "text-green", caution: "text-ochre", stop: "text-stop", plain: "text-ink" };

const NEXT: Record<string, string> = {
  "tight-and-dry": "Go on to release.",
  leak: "Find it: joints and cores first, with nitrogen and soap or an electronic detector. Repair, strength- and tightness-test again, then evacuate again.",
  moisture: "Go on pulling: ballast open, warm the coldest spot, change the oil; break with dry nitrogen if it stays.",
  "leak-and-moisture": "The leak first: it lets the water in. Repair and pressure-test, then dry.",
  "not-settled": "Let it stand.",
  invalid: "Hold again.",
};

const sure = (p: number): string => (p > 0.99 ? "More than 99 % sure." : `${percent(p)} sure.`);

function Read({ v, live, series, jobKey }: { v: VerdictOut; live: LiveOut; series: SeriesOut[]; jobKey: string }) {
  const u = useUnits();
  const tone = TONES[v.verdict] ?? "plain";
  return (
    <div className="grid gap-3 md:grid-cols-[minmax(0,1fr)_380px]">
      <section className={`sheet border-[3px] p-5 md:col-span-2 ${BORDER[tone]}`} aria-live="polite">
        <div className="flex items-start gap-4">
          <span aria-hidden className={`grid size-14 flex-none place-items-center rounded-full border-[3px] text-[30px] font-bold ${BORDER[tone]} ${INKS[tone]}`}>
            {SHAPE[tone]}
          </span>
          <div className="min-w-0">
            <p className="casual text-[32px] leading-tight font-extrabold" data-testid="verdict">
              {v.sentence}
            </p>
            <p className="mt-1 text-[18px]">
              {v.probability > 0 && v.verdict !== "invalid" && <span className="font-bold">{sure(v.probability)} </span>}
              {v.reasons.map((r) => u.words(r.charAt(0).toUpperCase() + r.slice(1) + ". "))}
            </p>
            <p className="mt-1">{NEXT[v.verdict]}</p>
          </div>
        </div>
      </section>
      <Sheet className="p-2!">
        <HoldTrace v={v} live={live} series={series} />
      </Sheet>
      <div className="grid content-start gap-3">
        <Sheet title="How likely">
          <Odds v={v} />
        </Sheet>
        <Sheet title="Figures" aside={`${span(v.span_s)} read`}>
          <Figures v={v} />
        </Sheet>
        {live.phase === "hold" && live.standin && live.pump_on && <NextCard live={live} jobKey={jobKey} />}
      </div>
      <Sheet title="What each school says" className="md:col-span-2">
        <ul className="list-none p-0">
          {v.criteria.map((c, i) => (
            <li key={c.key} className="grid gap-x-4 border-t-2 border-rule py-2 first:border-0 first:pt-0 sm:grid-cols-[190px_100px_1fr]">
              <span className="font-bold">
                {c.name}
                {i === 0 && <span className="font-normal text-soft"> (chosen)</span>}
              </span>
              <span>
                <Tag tone={c.passed ? "pass" : c.passed === false ? "stop" : "plain"}>{c.passed ? "passes" : c.passed === false ? "fails" : "not yet"}</Tag>
              </span>
              <span>{u.words(c.reason)}</span>
            </li>
          ))}
        </ul>
        <Disagree v={v} />
      </Sheet>
    </div>
  );
}

/** Where a school and the physics part, a sentence says why. */
function Disagree({ v }: { v: VerdictOut }) {
  const u = useUnits();
  const passing = v.criteria.filter((c) => c.passed);
  const failing = v.criteria.filter((c) => c.passed === false);
  const leaks = v.verdict.includes("leak");
  if (passing.length > 0 && leaks)
    return (
      <p className="mt-2 border-l-4 border-stop pl-3">
        Passes {passing.map((c) => c.name.toLowerCase()).join(" and ")}, but rises {u.rate(v.rate_micron_s.value, false)} without bending: about{" "}
        {mass(v.grams_per_year.value)} a year at working pressure.
      </p>
    );
  if (v.verdict === "tight-and-dry" && failing.length > 0)
    return <p className="mt-2 border-l-4 border-ochre pl-3">Tight and dry by its curve, though {failing.map((c) => c.name.toLowerCase()).join(" and ")} asks for a lower level.</p>;
  return null;
}

const NAMES: Record<string, string> = {
  "tight-and-dry": "tight and dry",
  leak: "leak",
  moisture: "water",
  "leak-and-moisture": "leak and water",
};

function Odds({ v }: { v: VerdictOut }) {
  const rows = Object.entries(v.odds);
  if (rows.length === 0) return <p className="text-soft">No odds: {v.reasons.join("; ")}.</p>;
  return (
    <ul className="list-none p-0">
      {rows.map(([k, share]) => (
        <li key={k} className="mb-2 grid grid-cols-[130px_1fr_84px] items-center gap-2">
          <span>{NAMES[k] ?? k}</span>
          <span className="h-4 bg-rule">
            <span className="block h-4 bg-ink" style={{ width: `${100 * share}%` }} />
          </span>
          <span className="figure text-right whitespace-nowrap">{percent(share)}</span>
        </li>
      ))}
    </ul>
  );
}

function Figures({ v }: { v: VerdictOut }) {
  const leaks = v.verdict.includes("leak");
  const wet = v.verdict.includes("moisture");
  const r = v.rate_micron_s;
  const u = useUnits();
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
      <Item name="Inside">{v.inside}</Item>
      {leaks ? (
        <>
          <Item name="Leak">
            <b className="figure">{u.rate(r.value, false)}</b>{" "}
            <span className="figure text-soft">
              ({u.rate(r.low, false)} to {u.rate(r.high, false)})
            </span>
            <br />
            <span className="figure">{v.leak_pa_m3_s.value.toExponential(1)} Pa·m³/s</span>
          </Item>
          <Item name="A year">
            {mass(v.grams_per_year.low)} to {mass(v.grams_per_year.high)} <span className="text-soft">at working pressure, estimate</span>
          </Item>
        </>
      ) : (
        <Item name="Could show">
          <span className="figure">{u.rate(v.detection_micron_s, false)}</span> <span className="text-soft">smallest leak</span>
        </Item>
      )}
      {wet && (
        <Item name="Water left">
          <b className="figure">{v.moisture_g.value.toPrecision(2)} g</b>{" "}
          <span className="figure text-soft">
            ({v.moisture_g.low.toPrecision(2)}–{v.moisture_g.high.toPrecision(2)})
          </span>
        </Item>
      )}
      <Item name="Sound since">
        {v.sound_at_s !== null && v.sound_at_s !== undefined ? (
          <>
            <span className="figure font-bold">{clock(v.started_at + v.sound_at_s)}</span> <span className="text-soft">after {span(v.sound_at_s)}</span>
          </>
        ) : (
          "not yet"
        )}
      </Item>
    </dl>
  );
}

function Item({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}

function HoldTrace({ v, live, series }: { v: VerdictOut; live: LiveOut; series: SeriesOut[] }) {
  const narrow = useNarrow();
  const u = useUnits();
  const start = v.started_at;
  const end = start + Math.max(v.span_s * 1.2, 600);
  const inHold = series.flatMap((s) => s.pa.filter((p, i): p is number => p !== null && s.at[i]! >= start));
  const peak = Math.max(v.limit_pa, ...inHold);
  const top = micron(peak) * 1.15;
  const levels = [
    { pa: v.limit_pa, label: `limit ${u.say("pressure", v.limit_pa)}`, tone: "green" as const },
    ...(micron(v.saturation_pa) < top ? [{ pa: v.saturation_pa, label: "saturation at the coldest spot", tone: "ochre" as const, dotted: true }] : []),
  ];
  const best = [...v.curves].sort((a, b) => b.odds - a.odds)[0];
  return (
    <Trace
      label={`Hold: ${v.sentence}`}
      series={series}
      log={false}
      height={narrow ? 280 : 404}
      from={start - 20}
      to={Math.min(end, Math.max(live.now, start + v.span_s) + v.span_s * 0.25 + 300)}
      top={top}
      bottom={0}
      levels={levels}
      pencils={best ? [{ at: best.at, mid: best.pa }] : []}
    />
  );
}
