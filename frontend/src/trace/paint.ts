import type uPlot from "uplot";

import { token } from "../lib/theme";
import type { Pencil } from "./Trace";

/** What is painted on the trace besides the ink: decades, pencil, levels, physical bands, events. */

export const FONT = '14px "Figures", monospace';
const TEXT = '"Atkinson", sans-serif';

export interface Level {
  pa: number;
  label: string;
  tone: "green" | "ochre" | "stop" | "pencil";
  dotted?: boolean;
  labelAt?: "left" | "right";
}
export interface Band {
  from: number;
  to: number;
  label: string;
  tone: "strong-rule" | "ochre" | "pencil" | "green";
}
export interface Mark {
  at: number;
  label: string;
  pa: number | null;
}

/** From Pa to what the axis shows. */
export type Shown = (pa: number) => number;

const px = () => devicePixelRatio;

/** Dashes by which curves in pencil are told apart. */
export const DASHES: number[][] = [
  [7, 5],
  [2, 4],
  [12, 4, 2, 4],
  [16, 6],
];

/** Fine rules between the decades. */
export function decades(u: uPlot): void {
  const c = u.ctx;
  const { left, width, top, height } = u.bbox;
  c.save();
  c.strokeStyle = token("rule");
  c.lineWidth = px();
  c.beginPath();
  for (let d = 1e-4; d <= 1e6; d *= 10)
    for (let k = 2; k < 10; k++) {
      const y = Math.round(u.valToPos(d * k, "y", true)) + 0.5;
      if (y < top || y > top + height) continue;
      c.moveTo(left, y);
      c.lineTo(left + width, y);
    }
  c.stroke();
  c.restore();
}

function clip(u: uPlot): void {
  const { left, top, width, height } = u.bbox;
  u.ctx.beginPath();
  u.ctx.rect(left, top, width, height);
  u.ctx.clip();
}

/** What is computed ahead: a hatched band with a dashed middle. */
export function hatchBand(u: uPlot, p: Pencil, shown: Shown): void {
  const c = u.ctx;
  const n = p.at.length;
  if (n < 2) return;
  const xs = p.at.map((t) => u.valToPos(t, "x", true));
  const ys = (v: number[]) => v.map((pa) => u.valToPos(shown(Math.max(pa, 0.01)), "y", true));
  c.save();
  clip(u);
  if (p.low && p.high) {
    const a = ys(p.low);
    const b = ys(p.high);
    c.save();
    c.beginPath();
    xs.forEach((x, i) => (i ? c.lineTo(x, a[i]!) : c.moveTo(x, a[i]!)));
    for (let i = n - 1; i >= 0; i--) c.lineTo(xs[i]!, b[i]!);
    c.closePath();
    c.clip();
    c.strokeStyle = token("strong-rule");
    c.lineWidth = 1.3 * px();
    c.beginPath();
    const { left, top, width, height } = u.bbox;
    for (let k = -height; k < width; k += 6 * px()) {
      c.moveTo(left + k, top + height);
      c.lineTo(left + k + height, top);
    }
    c.stroke();
    c.restore();
  }
  const m = ys(p.mid);
  c.setLineDash((DASHES[(p.dash ?? 0) % DASHES.length] ?? []).map((d) => d * px()));
  c.strokeStyle = token(p.strong ? "soft" : "pencil");
  c.lineWidth = (p.strong ? 2.6 : 2) * px();
  c.beginPath();
  xs.forEach((x, i) => (i ? c.lineTo(x, m[i]!) : c.moveTo(x, m[i]!)));
  c.stroke();
  c.restore();
}

/** A level with its name on the sheet. */
export function levelLine(u: uPlot, l: Level, shown: Shown): void {
  const c = u.ctx;
  const { left, width, top, height } = u.bbox;
  const y = u.valToPos(shown(l.pa), "y", true);
  if (y < top - 1 || y > top + height + 1) return;
  c.save();
  c.strokeStyle = token(l.tone);
  c.lineWidth = 2 * px();
  if (l.dotted) c.setLineDash([2 * px(), 4 * px()]);
  c.beginPath();
  c.moveTo(left, y);
  c.lineTo(left + width, y);
  c.stroke();
  c.font = `600 ${14 * px()}px ${TEXT}`;
  c.fillStyle = token("ink");
  c.textBaseline = "alphabetic";
  c.textAlign = l.labelAt ?? "left";
  c.fillText(l.label, l.labelAt === "right" ? left + width - 8 * px() : left + 8 * px(), y - 7 * px());
  c.restore();
}

/** Where a simulated gauge gave the readings: written over the sheet, again and again, under the ink. */
export function notReal(u: uPlot, series: { simulated: [number, number][] }[]): void {
  const c = u.ctx;
  const { left, top, width, height } = u.bbox;
  c.save();
  c.font = `700 ${15 * px()}px ${TEXT}`;
  c.fillStyle = token("pencil");
  c.textAlign = "left";
  c.textBaseline = "bottom";
  const word = "SIMULATED";
  const wide = c.measureText(word).width + 28 * px();
  for (const [from, to] of series.flatMap((s) => s.simulated)) {
    const a = Math.max(left, u.valToPos(from, "x", true));
    const b = Math.min(left + width, u.valToPos(to, "x", true));
    if (b < left || a > left + width) continue;
    c.save();
    c.beginPath();
    c.rect(a, top, Math.max(b - a, wide), height);
    c.clip();
    const first = a + 8 * px();
    for (let x = first; x === first || x + wide <= b; x += wide) c.fillText(word, x, top + height - 6 * px());
    c.restore();
  }
  c.restore();
}

/** The physical bands beside the trace. */
export function rightBands(u: uPlot, bands: Band[], shown: Shown): void {
  const c = u.ctx;
  const { left, width, top, height } = u.bbox;
  const x = left + width + 6 * px();
  c.save();
  c.font = `${14 * px()}px ${TEXT}`;
  c.textBaseline = "middle";
  c.textAlign = "left";
  for (const b of bands) {
    const y0 = Math.max(top, u.valToPos(shown(b.to), "y", true));
    const y1 = Math.min(top + height, u.valToPos(shown(b.from), "y", true));
    if (y1 - y0 < 4) continue;
    c.fillStyle = token(b.tone);
    c.fillRect(x, y0 + 2, 7 * px(), y1 - y0 - 4);
    if (y1 - y0 > 16 * px()) {
      c.fillStyle = token("ink");
      c.fillText(b.label, x + 13 * px(), (y0 + y1) / 2);
    }
  }
  c.restore();
}

/** Events as numbered flags standing on the trace. */
export function marks(u: uPlot, events: Mark[], shown: Shown): void {
  const c = u.ctx;
  const { left, width, top, height } = u.bbox;
  let last = -Infinity;
  c.save();
  c.font = `700 ${13 * px()}px "Figures", monospace`;
  c.textAlign = "center";
  c.textBaseline = "middle";
  for (const e of events) {
    const x = u.valToPos(e.at, "x", true);
    if (x < left || x > left + width) continue;
    const on = e.pa === null ? top + height * 0.3 : u.valToPos(shown(Math.max(e.pa, 0.1)), "y", true);
    const r = 11 * px();
    const low = Math.min(Math.max(on, top + 46 * px()), top + height);
    const high = low - (x - last < 24 * px() ? 58 : 34) * px();
    last = x;
    c.strokeStyle = token("ink");
    c.lineWidth = 1.6 * px();
    c.beginPath();
    c.moveTo(x, low - 6 * px());
    c.lineTo(x, high + r);
    c.stroke();
    c.beginPath();
    c.arc(x, high, r, 0, 2 * Math.PI);
    c.fillStyle = token("sheet");
    c.fill();
    c.stroke();
    c.fillStyle = token("ink");
    c.fillText(e.label, x, high + px());
  }
  c.restore();
}

/** Where the hand stands on the time axis. */
export function hand(u: uPlot, at: number | undefined): void {
  if (at === undefined) return;
  const { left, width, top, height } = u.bbox;
  const x = u.valToPos(at, "x", true);
  if (x < left - 1 || x > left + width + 1) return;
  const c = u.ctx;
  c.save();
  c.strokeStyle = token("ink");
  c.lineWidth = 2 * px();
  c.beginPath();
  c.moveTo(x, top);
  c.lineTo(x, top + height);
  c.stroke();
  c.fillStyle = token("ink");
  c.beginPath();
  c.moveTo(x - 8 * px(), top);
  c.lineTo(x + 8 * px(), top);
  c.lineTo(x, top + 11 * px());
  c.fill();
  c.restore();
}

/** A bar along the top for as long as a gauge was over its range: it was read, but there is no figure. */
export function overRange(u: uPlot, series: { at: number[]; pa: (number | null)[] }[]): void {
  const c = u.ctx;
  const r = devicePixelRatio;
  c.save();
  c.strokeStyle = token("measure");
  c.lineWidth = 3 * r;
  c.setLineDash([2 * r, 3 * r]);
  series.forEach((s, n) => {
    const y = u.bbox.top + (4 + 6 * n) * r;
    let from = -1;
    for (let i = 0; i <= s.at.length; i++) {
      const over = i < s.at.length && s.pa[i] === null;
      if (over && from < 0) from = i;
      if (!over && from >= 0) {
        const a = Math.max(u.bbox.left, u.valToPos(s.at[from]!, "x", true));
        const b = Math.min(u.bbox.left + u.bbox.width, u.valToPos(s.at[i - 1]!, "x", true));
        if (b > a) {
          c.beginPath();
          c.moveTo(a, y);
          c.lineTo(b, y);
          c.stroke();
        }
        from = -1;
      }
    }
  });
  c.restore();
}
