import type { Moment, PlanOut } from "../api/client";
import { percent } from "../lib/format";

export interface Slice {
  label: string;
  share: number;
  kind: string;
}

const TONE: Record<string, string> = {
  pump: "bg-green-wash",
  hose: "bg-strong",
  manifold: "hatch bg-rule",
  tool: "bg-rule",
  port: "bg-ochre-wash",
};
const NAMES: [string, string[], string][] = [
  ["pump", ["pump"], "pump"],
  ["hoses", ["hose"], "hose"],
  ["manifold", ["manifold"], "manifold"],
  ["tee, tools", ["tool", "tee", "valve", "adapter"], "tool"],
  ["ports", ["port"], "port"],
];

/** Whether a core is left in a port that is pumped. */
const corePlan = (plan: PlanOut): boolean => plan.parts.some((p) => p.kind === "port" && p.core);

/** What holds the draw back at the target, pump to port, in slices that add up to one. */
export function atTarget(plan: PlanOut): Slice[] {
  const cores = corePlan(plan);
  return NAMES.map(([label, kinds, kind]) => ({
    label: kind === "port" && cores ? "cores" : label,
    kind,
    share: plan.parts.filter((p) => kinds.includes(p.kind)).reduce((a, p) => a + p.share, 0) + (kind === "pump" ? plan.pump_share : 0),
  })).filter((s) => s.share >= 0.005);
}

/** The same at a moment of the predicted run. */
export function atMoment(plan: PlanOut, m: Moment): Slice[] {
  const kindOf = (name: string): string => {
    const kind = name === "pump" ? "pump" : plan.parts.find((p) => p.name === name)?.kind ?? "";
    return NAMES.find(([, kinds]) => kinds.includes(kind))?.[2] ?? "tool";
  };
  const sums = new Map<string, number>();
  for (const [name, share] of Object.entries(m.resistance)) sums.set(kindOf(name), (sums.get(kindOf(name)) ?? 0) + share);
  const cores = corePlan(plan);
  return NAMES.map(([label, , kind]) => ({ label: kind === "port" && cores ? "cores" : label, kind, share: sums.get(kind) ?? 0 })).filter((s) => s.share >= 0.005);
}

/** The ribbon: where the resistance is. */
export function Ribbon({ plan, slices }: { plan: PlanOut; slices?: Slice[] }) {
  const shown = slices ?? atTarget(plan);
  return (
    <div className="mt-2">
      <div className="flex gap-[3px]" role="img" aria-label={`Resistance: ${shown.map((s) => `${s.label} ${percent(s.share)}`).join(", ")}`}>
        {shown.map((s) => (
          <div
            key={s.kind}
            title={`${s.label} ${percent(s.share)}`}
            className={`min-w-[6px] overflow-hidden px-2 py-1 text-note font-bold whitespace-nowrap ${TONE[s.kind] ?? "bg-rule"}`}
            style={{ flexGrow: Math.max(s.share, 0.01), flexBasis: 0 }}
          >
            {/* Where it is narrow the name gives way, then the figure: never half of one. */}
            {s.share > 0.07 && (
              <span className={`gap-1 ${s.share > 0.17 ? "flex" : "hidden md:flex"}`}>
                <span className="truncate">{s.label}</span>
                <span className="figure flex-none">{percent(s.share)}</span>
              </span>
            )}
          </div>
        ))}
      </div>
    </div>
  );
}
