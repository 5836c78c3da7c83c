import type { PlanOut } from "../api/client";
import type { Slice } from "./Ribbon";

export interface RigLineProps {
  plan: PlanOut;
  /** Pressure by node, Pa; empty where nothing is known. */
  pressures?: Record<string, number>;
  reading?: string;
  /** What further gauges show, by their ids. */
  readings?: Record<string, string>;
  /** Valves shut beyond those the sheet has shut. */
  shut?: string[];
  selected?: string | null;
  onPart?: (part: string) => void;
  onValve?: (valve: string) => void;
  /** Beside the unit, where sections have touches of their own. */
  onSection?: (section: string) => void;
  slices?: Slice[];
  /** Beside the unit: without what keeps its charge. */
  running?: boolean;
}

/** What a gauge's flag says: its figure, or with several its name. */
export function flagText(plan: PlanOut, part: string, index: number, reading: string | undefined, readings: Record<string, string> | undefined): string {
  const own = readings?.[part] ?? (index === 0 ? reading : undefined);
  if (own !== undefined && own !== "gauge") return own;
  if (plan.gauges.length < 2) return "gauge";
  const named = plan.gauges.find((g) => g.id === part)?.name;
  const alone = plan.gauges.filter((g) => g.name === named).length === 1;
  return named && alone ? named : `gauge ${index + 1}`;
}

/** Tone of a compartment: paler the emptier, on the decades from atmosphere to 100 µ. */
export function tone(pa: number | undefined): string {
  if (pa === undefined) return "transparent";
  const share = Math.min(1, Math.max(0, Math.log10(Math.max(pa / 0.1333, 100) / 100) / 3.9));
  return `rgb(var(--tone) / ${(0.06 + 0.34 * share).toFixed(3)})`;
}

export const isShut = (plan: PlanOut, valve: string, shut: string[]): boolean => plan.shut.includes(valve) || shut.includes(valve);
