import type { Job, Part, PlanOut, SystemOut } from "../api/client";

/** Where the parts of a rig stand on the line, pump to system. Widths follow the logarithm of conductance. */

export interface Stroke {
  d: string;
  width: number;
  label?: { x: number; y: number; text: string };
}
export interface Valve {
  x: number;
  y: number;
  side: string;
  label: string;
}
export interface Box {
  name: string;
  label: string;
  x: number;
  w: number;
}
export interface Line {
  strokes: Stroke[];
  valves: Valve[];
  boxes: Box[];
  texts: { x: number; y: number; text: string }[];
  flag: { x: number; y: number };
  manifold: { x: number } | null;
}

export const VIEW = { width: 1120, height: 132 };
const TOP = 48;
const LOW = 104;

/** Stroke width, 2 to 17, from a conductance in m³/s. */
export const stroke = (c: number): number => Math.min(17, Math.max(2, 2 + 4.2 * (Math.log10(Math.max(c, 1e-7)) + 5.5)));

const find = (parts: Part[], side: string, kind: string) => parts.find((p) => p.side === side && p.kind === kind);

export function layout(job: Job, plan: PlanOut, system: SystemOut): Line {
  const line: Line = { strokes: [], valves: [], boxes: [], texts: [], flag: { x: 0, y: TOP }, manifold: null };
  const { paths = [], manifold, gauge } = job.rig!;
  const [first, second] = orderPaths(paths);
  const pumpEnd = 104;
  let start = pumpEnd;
  const add = (x0: number, x1: number, y: number, part: Part | undefined, label?: string) => {
    if (!part) return;
    line.strokes.push({
      d: `M${x0} ${y}H${x1}`,
      width: stroke(part.conductance_m3_s),
      label: label ? { x: (x0 + x1) / 2, y: y + 24, text: label } : undefined,
    });
  };
  if (manifold && manifold !== "none") {
    const pumpHose = plan.parts.find((p) => p.name === "pump-hose");
    add(start, start + 120, TOP, pumpHose, pumpHose?.label);
    line.manifold = { x: start + 120 };
    start += 120 + 92;
  } else {
    add(start, start + 34, TOP, plan.parts.find((p) => p.kind === "pump"));
    start += 34;
  }
  if (!first) return line;
  const tool = (side: string, x: number, y: number, has: boolean) => {
    if (has) {
      line.valves.push({ x, y, side, label: `${side} tool` });
      line.texts.push({ x, y: y + 38, text: "tool" });
    }
  };
  const hoseEnd = start + (line.manifold ? 140 : 176);
  add(start, hoseEnd, TOP, find(plan.parts, first.port!, "hose"), find(plan.parts, first.port!, "hose")?.label);
  const valveX = hoseEnd + 22;
  tool(first.port!, valveX, TOP, first.tool !== false);
  const portStart = first.tool !== false ? valveX + 20 : hoseEnd;
  const portPart = find(plan.parts, first.port!, "port");
  add(portStart, portStart + 44, TOP, portPart);
  line.texts.push({ x: portStart + 22, y: TOP + 38, text: first.core === "in" ? "core in" : "port" });

  const left = portStart + 44;
  const right = second ? 1010 : VIEW.width - 12;
  const shown = system.sections.filter((s) => s.name !== "liquid-far" || system.sections.length < 4);
  const ordered = first.port === "liquid" ? [...shown].reverse() : shown;
  const gap = 22;
  const w = (right - left - gap * (ordered.length - 1)) / ordered.length;
  ordered.forEach((s, i) => {
    const x = left + i * (w + gap);
    line.boxes.push({ name: s.name, label: s.label, x, w });
    if (i > 0) line.strokes.push({ d: `M${x - gap} ${TOP}H${x}`, width: 4 });
  });
  if (second) {
    const hose = find(plan.parts, second.port!, "hose");
    const width = stroke(hose?.conductance_m3_s ?? 1e-5);
    const x = start + 4;
    const end = VIEW.width - 8;
    const tv = 1066;
    line.strokes.push({
      d: `M${x} ${TOP}V${LOW}H${end}V${TOP}H${tv + 20}`,
      width,
      label: { x: 620, y: LOW + 21, text: hose?.label ?? "" },
    });
    tool(second.port!, tv, TOP, second.tool !== false);
    const port = find(plan.parts, second.port!, "port");
    add(right, second.tool !== false ? tv - 20 : tv + 20, TOP, port);
    if (second.core === "in") line.texts.push({ x: (right + tv) / 2, y: TOP + 38, text: "core in" });
  }
  line.flag = { x: flagX(gauge?.place ?? "", line, start), y: TOP - 30 };
  return line;
}

/** The path drawn along the top: suction first, for the volume is there. */
function orderPaths(paths: NonNullable<Job["rig"]>["paths"]) {
  const list = [...(paths ?? [])];
  list.sort((a, b) => (a.port === "suction" ? -1 : b.port === "suction" ? 1 : 0));
  return list;
}

function flagX(place: string, line: Line, start: number): number {
  if (place === "pump") return 118;
  if (place === "manifold") return (line.manifold?.x ?? start) + 20;
  const side = place.split(":")[1];
  const valve = line.valves.find((v) => v.side === side);
  if (place.startsWith("tool") && valve) return valve.x;
  const box = line.boxes.find((b) => b.name === side) ?? line.boxes[0];
  return box ? box.x + 26 : start;
}

export interface Slice {
  label: string;
  share: number;
  kind: string;
}

/** What holds the draw back, pump to port, in slices that add up to one. */
export function ribbon(plan: PlanOut): Slice[] {
  const sum = (...kinds: string[]) => plan.parts.filter((p) => kinds.includes(p.kind)).reduce((a, p) => a + p.share, 0);
  const cores = plan.parts.some((p) => p.label === "core in port");
  return [
    { label: "pump", share: plan.pump_share + sum("pump"), kind: "pump" },
    { label: "hoses", share: sum("hose"), kind: "hose" },
    { label: "manifold", share: sum("manifold"), kind: "manifold" },
    { label: "tools", share: sum("tool"), kind: "tool" },
    { label: cores ? "cores" : "ports", share: sum("port"), kind: "port" },
  ].filter((s) => s.share >= 0.005);
}
