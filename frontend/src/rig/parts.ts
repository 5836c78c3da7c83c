import type { Job, PlanOut, RigDoc, RigPiece } from "../api/client";

/** Reading and changing parts of the rig's list. What fits where is the server's to say. */

export const partOf = (rig: RigDoc | undefined, id: string): RigPiece | undefined => rig?.parts?.find((p) => p.id === id);

export const pumpOf = (job: Job) => job.rig?.parts?.find((p) => p.kind === "pump") as Extract<RigPiece, { kind?: "pump" }> | undefined;

/** The sheet with fields of one part changed. */
export function withPart(job: Job, id: string, fields: Partial<RigPiece>): Job {
  const parts = (job.rig?.parts ?? []).map((p) => (p.id === id ? ({ ...p, ...fields } as RigPiece) : p));
  return { ...job, rig: { ...job.rig!, parts } };
}

const KINDS: Record<string, string> = {
  pump: "pump",
  tee: "tee",
  hose: "hose",
  manifold: "manifold",
  tool: "core tool",
  adapter: "adapter",
  valve: "ball valve",
  gauge: "gauge",
  cylinder: "cylinder",
  nitrogen: "nitrogen bottle",
};

export const kindWords = (kind: string | undefined): string => KINDS[kind ?? ""] ?? kind ?? "part";

/** Conductance of a drawn part at the target, m³/s: the narrowest of the rows that belong to it. */
export function conductanceOf(plan: PlanOut, part: string): number | undefined {
  const rows = plan.parts.filter((p) => p.name === part || p.name.startsWith(`${part}.`));
  return rows.length ? Math.min(...rows.map((r) => r.conductance_m3_s)) : undefined;
}

/** Stroke width, 2 to 17, from a conductance in m³/s. */
export const strokeWidth = (c: number): number => Math.min(17, Math.max(2, 2 + 4.2 * (Math.log10(Math.max(c, 1e-7)) + 5.5)));

/** What a part, valve or section of a plan is called. */
export function calledOn(plan: PlanOut, name: string): string {
  const { boxes, strokes } = plan.drawing;
  const named = [...(boxes ?? []).map((b) => [b.name, b.label]), ...plan.parts.map((p) => [p.name, p.label]), ...Object.entries(plan.valves), ...(strokes ?? []).map((s) => [s.part, s.label])];
  return named.find(([n, label]) => n === name && label)?.[1] ?? name.replaceAll("-", " ");
}
