import { useEffect, useMemo, useRef } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";

import type { SeriesOut } from "../api/client";
import { clock, micron, MICRON_PA } from "../lib/format";
import { useUnits } from "../lib/units";
import { token, useTheme } from "../lib/theme";
import { floorOf } from "./floor";
import { usePan } from "./pan";
import { decades, FONT, hand, hatchBand, levelLine, marks, notReal, overRange, rightBands, type Band, type Level, type Mark, type Shown } from "./paint";

export interface Pencil {
  at: number[];
  low?: number[];
  mid: number[];
  high?: number[];
  /** Which dash it is drawn with; and whether it is the one that counts. */
  dash?: number;
  strong?: boolean;
}

export interface TraceProps {
  series: SeriesOut[];
  log: boolean;
  pencils?: Pencil[];
  levels?: Level[];
  bands?: Band[];
  events?: Mark[];
  from: number;
  to: number;
  top?: number;
  bottom?: number;
  height: number;
  label: string;
  /** A hand on the time axis, moved by dragging. */
  hand?: number;
  onHand?: (at: number) => void;
  /** Called as a hand drags or zooms the time axis: the new span. */
  onView?: (from: number, to: number) => void;
  /** How times are written along the axis. */
  time?: (at: number) => string;
}

type Latest = TraceProps & { bottom: number; shown: Shown; written: (v: number) => string };

/** The strip chart: measured in ink, computed in pencil. Pressures come in Pa and are drawn in the person's unit. */
export function Trace(props: TraceProps) {
  const box = useRef<HTMLDivElement>(null);
  const plot = useRef<uPlot>(null);
  const units = useUnits();
  const unit = `${units.of("pressure").key} ${units.numbers}`;
  // A reading is drawn wherever it is: the axis goes down to it.
  const usual = props.bottom ?? (props.log ? 50 : 0);
  const bottom = useMemo(() => (props.log ? floorOf(props.series.map((s) => s.pa), usual, micron) : usual), [props.series, props.log, usual]);
  const full: Latest = { ...props, bottom, shown: (pa) => units.shown("pressure", pa), written: (v) => units.plain(v, 6) };
  const latest = useRef(full);
  const theme = useTheme();
  useEffect(() => {
    latest.current = full;
  });

  const { log, height } = props;
  const banded = (props.bands?.length ?? 0) > 0;
  const count = Math.max(1, props.series.length);
  useEffect(() => {
    const host = box.current;
    if (!host) return;
    const options = makeOptions(latest, log, count, host.clientWidth, height);
    const made = new uPlot(options, align(latest.current), host);
    plot.current = made;
    const watch = new ResizeObserver(() => made.setSize({ width: host.clientWidth, height }));
    watch.observe(host);
    return () => {
      watch.disconnect();
      made.destroy();
      plot.current = null;
    };
  }, [log, height, count, theme, banded, unit]);

  // Readings are laid out when they change, not at every frame of a pan.
  const laid = useRef<{ of: uPlot | null; series: SeriesOut[]; unit: string }>({ of: null, series: [], unit: "" });
  useEffect(() => {
    const p = plot.current;
    if (!p) return;
    p.batch(() => {
      if (laid.current.of !== p || laid.current.series !== props.series || laid.current.unit !== unit) {
        p.setData(align(full), false);
        laid.current = { of: p, series: props.series, unit };
      }
      p.setScale("x", { min: props.from, max: props.to });
      p.setScale("y", range(full));
    });
  });

  const pan = usePan(plot, props);
  const drag = (e: React.PointerEvent) => {
    const p = plot.current;
    if (!p || !props.onHand || (e.type === "pointermove" && e.buttons === 0)) return;
    const x = e.clientX - p.over.getBoundingClientRect().left;
    props.onHand(Math.min(props.to, Math.max(props.from, p.posToVal(x, "x"))));
  };
  return (
    <div
      ref={box}
      role="img"
      aria-label={props.label}
      onPointerDown={props.onView ? pan.down : drag}
      onPointerMove={props.onView ? pan.move : drag}
      onPointerUp={pan.up}
      onPointerCancel={pan.up}
      className={`w-full ${props.onHand || props.onView ? "touch-pan-y" : ""} ${props.onView ? "cursor-grab" : ""}`}
      style={{ height }}
    />
  );
}

/** The span of the axis, in the person's unit; `top` and `bottom` are given in µ. */
function range(p: Latest): { min: number; max: number } {
  const top = p.top ?? (p.log ? 1e6 : 1000);
  return { min: p.shown(p.bottom * MICRON_PA), max: p.shown(top * MICRON_PA) };
}

/** Series on one time axis. Over range stays empty, and so does a silence: nothing is drawn that was not read. */
function align({ series, shown }: Latest): uPlot.AlignedData {
  const tables = series.map((s) => broken(s.at, s.pa.map((v) => (v === null ? null : shown(v)))));
  if (tables.length === 0) return [[], []];
  return tables.length === 1 ? tables[0]! : uPlot.join(tables, tables.map((t) => t.map(() => 2)));
}

/** Seconds of silence after which the line is broken: a few readings must be missing, and a hand that types is slow. */
const SILENCE = 20;

function broken(at: number[], values: (number | null)[]): uPlot.AlignedData {
  const usual = at.length > 2 ? (at[at.length - 1]! - at[0]!) / (at.length - 1) : Infinity;
  const most = Math.max(SILENCE, 8 * usual);
  const xs: number[] = [];
  const ys: (number | null)[] = [];
  for (let i = 0; i < at.length; i++) {
    if (i > 0 && at[i]! - at[i - 1]! > most) {
      xs.push((at[i]! + at[i - 1]!) / 2);
      ys.push(null);
    }
    xs.push(at[i]!);
    ys.push(values[i]!);
  }
  return [xs, ys];
}

function makeOptions(
  latest: React.RefObject<Latest>,
  log: boolean,
  count: number,
  width: number,
  height: number,
): uPlot.Options {
  const ink = token("ink");
  const axis = { stroke: ink, font: FONT, ticks: { show: false } };
  return {
    width,
    height,
    legend: { show: false },
    cursor: { drag: { x: false, y: false }, points: { size: 9 } },
    padding: [14, log && latest.current.bands?.length ? 96 : 24, 0, 0],
    scales: {
      x: { time: false, range: () => [latest.current.from, latest.current.to] },
      y: { distr: log ? 3 : 1, range: () => [range(latest.current).min, range(latest.current).max] },
    },
    axes: [
      {
        ...axis,
        grid: { stroke: token("rule"), width: 1 },
        space: 90,
        size: 32,
        values: (_, splits) => splits.map((s) => (latest.current.time ?? clock)(s)),
        incrs: [60, 120, 300, 600, 900, 1800, 3600, 7200, 14400],
      },
      {
        ...axis,
        size: width < 500 ? 68 : 84,
        grid: { stroke: token("strong-rule"), width: 1 },
        values: (_, splits) => splits.map((s) => (log && !isDecade(s) ? "" : latest.current.written(s))),
        ...(log ? { splits: () => DECADES.filter((d) => d >= range(latest.current).min * 0.99 && d <= range(latest.current).max) } : {}),
      },
    ],
    series: [
      {},
      ...Array.from({ length: count }, (_, i) => ({
        stroke: token("measure"),
        width: i === 0 ? 3 : 2,
        dash: i === 0 ? undefined : [7, 4],
        points: { show: false },
        spanGaps: false,
      })),
    ],
    hooks: {
      drawAxes: [
        (u) => {
          if (log) decades(u);
          const { pencils, bands, levels, shown } = latest.current;
          for (const p of pencils ?? []) hatchBand(u, p, shown);
          if (log) rightBands(u, bands ?? [], shown);
          for (const l of levels ?? []) levelLine(u, l, shown);
          notReal(u, latest.current.series);
        },
      ],
      draw: [(u) => marks(u, latest.current.events ?? [], latest.current.shown), (u) => overRange(u, latest.current.series), lastPoint, (u) => hand(u, latest.current.hand)],
    },
  };
}

const DECADES = [1e-4, 1e-3, 0.01, 0.1, 1, 10, 100, 1000, 10_000, 100_000];
const isDecade = (v: number) => Math.abs(Math.log10(v) - Math.round(Math.log10(v))) < 1e-6;

/** A ring where the pen stands now. */
function lastPoint(u: uPlot): void {
  const xs = u.data[0];
  const ys = u.data[1];
  if (!xs || !ys) return;
  let i = xs.length - 1;
  while (i >= 0 && (ys[i] === null || ys[i] === undefined)) i--;
  if (i < 0) return;
  const x = u.valToPos(xs[i]!, "x", true);
  const y = u.valToPos(ys[i]!, "y", true);
  if (x < u.bbox.left || x > u.bbox.left + u.bbox.width + 4) return;
  const c = u.ctx;
  const r = devicePixelRatio;
  c.setLineDash([]);
  c.beginPath();
  c.arc(x, y, 7 * r, 0, 2 * Math.PI);
  c.fillStyle = token("sheet");
  c.fill();
  c.lineWidth = 3.5 * r;
  c.strokeStyle = token("measure");
  c.stroke();
}
