import type { SeriesOut } from "../api/client";
import type { Pencil } from "../trace/Trace";

type Curve = readonly (number | null)[];

/** Readings of a practice job as the strip chart draws them. */
export const ink = (gauge: string, at: number[], pa: (number | null)[]): SeriesOut => ({ gauge, part: null, at, pa, total: at.length, thinned: false, simulated: [] });

/** A curve in pencil, where it is known. */
export function pencil(at: number[], values: Curve, dash: number): Pencil {
  const keep = values.map((v, i) => [at[i]!, v] as const).filter((p): p is [number, number] => p[1] !== null);
  return { at: keep.map((p) => p[0]), mid: keep.map((p) => p[1]), dash };
}
