import type { PlanOut } from "../api/client";
import { calledOn } from "./parts";
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

/** What tells parts of one name apart for who cannot see where they stand: the way they are on, or their number. */
export function spoken(plan: PlanOut): Map<string, string> {
  const { boxes, strokes, valves, ways } = plan.drawing;
  const names = new Set([...(strokes ?? []).map((s) => s.part), ...(boxes ?? []).map((b) => b.name)]);
  const called: [string, string][] = [...names].map((n) => [n, calledOn(plan, n)]);
  const turned: [string, string][] = (valves ?? []).map((v) => [`valve:${v.valve}`, v.label]);
  const on = (part: string) => {
    const its = (ways ?? []).filter((w) => w.parts.includes(part));
    return its.length === 1 && (ways ?? []).length > 1 ? its[0]!.port.replaceAll("-", " ") : "";
  };
  const placed = apart(called, (n, label) => (on(n) ? `${label}, ${on(n)}` : label));
  return new Map([...numbered(placed), ...numbered(turned)]);
}

type Named = [string, string];

const alike = (all: Named[], label: string): Named[] => all.filter(([, l]) => l === label);

function apart(all: Named[], better: (name: string, label: string) => string): Named[] {
  return all.map(([n, l]) => [n, alike(all, l).length > 1 ? better(n, l) : l]);
}

function numbered(all: Named[]): Named[] {
  return all.map(([n, l]) => {
    const same = alike(all, l);
    return [n, same.length > 1 ? `${l}, ${same.findIndex(([other]) => other === n) + 1} of ${same.length}` : l];
  });
}
