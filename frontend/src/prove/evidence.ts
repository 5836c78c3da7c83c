import type { Job, ProofStageOut, StageReading } from "../api/client";
import { pumpOf, withPart } from "../rig/parts";
import type { ProveDoc } from "./types";

/** What is seen before the draw, written on the sheet: what it says of the pump goes with the pump. */

const EMPTY: StageReading = { running: true, added_l: 0, part: "" };
export type OilLook = NonNullable<ProveDoc["oil"]>;

export const readingOf = (prove: ProveDoc, key: string): StageReading => prove.stages?.[key] ?? EMPTY;

/** A stage of the rig proof as it was read, of the part that stands there now; the pump alone is its blank-off. */
export function withStage(job: Job, stages: ProofStageOut[], key: string, read: StageReading): Job {
  const reading = { ...read, part: stages.find((s) => s.key === key)?.mark ?? "" };
  const pump = pumpOf(job);
  const measured = key === "pump" && pump && reading.settled_micron && reading.running !== false;
  const next = measured ? withPart(job, pump.id, { blank_off_micron: Math.min(20000, Math.max(1, Math.round(reading.settled_micron!))) }) : job;
  return { ...next, prove: { ...next.prove!, stages: { ...next.prove?.stages, [key]: reading } } };
}

/** The oil as it looks in the glass. */
export function withOil(job: Job, look: OilLook): Job {
  const pump = pumpOf(job);
  const oil = look === "fresh" ? "fresh" : look === "milky" ? "wet" : "used";
  return { ...(pump ? withPart(job, pump.id, { oil }) : job), prove: { ...job.prove!, oil: look, oil_changed: false } };
}
