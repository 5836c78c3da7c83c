import type { PlanOut } from "../api/client";
import { percent } from "../lib/format";
import { useUnits } from "../lib/units";
import { strokeWidth } from "./parts";
import { flagText, isShut, tone, type RigLineProps } from "./line";

/** The same run on a phone: pump at the top, system at the foot. */
export function Upright({ plan, pressures = {}, reading, readings, shut = [], selected, onPart, onValve, onSection }: RigLineProps) {
  const pressOf = (valve: string, part: string) => (onValve ? () => onValve(valve) : onPart ? () => onPart(part) : undefined);
  const u = useUnits();
  const d = plan.drawing;
  const boxes = d.boxes ?? [];
  const pump = boxes.find((b) => b.kind === "pump");
  const ways = d.ways ?? [];
  return (
    <div>
      {pump && (
        <PartButton part={pump.name} onPart={onPart} selected={selected} className="mb-1 w-full rounded-[6px] border-2 border-ink px-3 py-2 text-center font-bold">
          {pump.label}
          {pressures.pump !== undefined && <span className="figure ml-2 font-normal">{u.say("pressure", pressures.pump)}</span>}
        </PartButton>
      )}
      <div className="grid gap-3" style={{ gridTemplateColumns: `repeat(${Math.max(1, ways.length)}, minmax(0, 1fr))` }}>
        {ways.map((w) => (
          <ol key={w.port} aria-label={w.port.replaceAll("-", " ")} className="list-none p-0">
            {w.parts
              .filter((p) => p !== pump?.name)
              .flatMap((p) => rows(plan, p, w.port))
              .map((row) => {
                const valve = row.valve;
                const isIt = valve !== null && valve !== undefined;
                return (
                  <li key={row.key} className="flex min-h-12 items-stretch gap-1">
                    <span className="grid w-10 flex-none justify-center">
                      {isIt ? (
                        <ValveButton
                          valve={valve}
                          label={plan.valves[valve] ?? valve}
                          closed={isShut(plan, valve, shut)}
                          chosen={selected === row.part}
                          onPress={pressOf(valve, row.part)}
                        />
                      ) : (
                        <span className={selected === row.part ? "bg-measure" : "bg-ink"} style={{ width: row.conductance === undefined ? 4 : strokeWidth(row.conductance) }} />
                      )}
                    </span>
                    <PartButton part={row.part} onPart={row.part.endsWith(".port") ? undefined : onPart} selected={selected} className="min-w-0 flex-1 self-center text-left leading-tight">
                      {row.label} {row.share !== undefined && <span className="figure whitespace-nowrap text-soft">{percent(row.share)}</span>}
                    </PartButton>
                  </li>
                );
              })}
          </ol>
        ))}
      </div>
      <ul className="mt-1 list-none p-0">
        {boxes
          .filter((b) => b.kind === "section")
          .map((s) => (
            <li
              key={s.name}
              className={`-mt-0.5 flex min-h-11 items-center justify-between gap-2 border-2 px-3 py-1.5 ${s.state === "pumped" ? "border-ink" : s.state === "charge" ? "border-dotted border-strong text-soft" : "hatch border-dashed border-stop"}`}
              style={{ background: s.state === "pumped" ? tone(pressures[s.name]) : undefined }}
            >
              {onSection ? (
                <button type="button" data-touch={`part:${s.name}`} onClick={() => onSection(s.name)} className="min-h-11 flex-1 text-left font-bold">
                  {s.label}
                </button>
              ) : (
                <span className="font-bold">{s.label}</span>
              )}
              {s.state === "charge" && <span className="text-note">keeps its charge</span>}
              {s.state === "left-out" && <span className="font-bold text-stop">not reached</span>}
              {s.state === "pumped" && pressures[s.name] !== undefined && <span className="figure">{u.say("pressure", pressures[s.name]!)}</span>}
            </li>
          ))}
      </ul>
      {(plan.drawing.flags ?? []).map((flag, i) => (
        <p key={flag.part} className="mt-2 flex items-center gap-2">
          <PartButton part={flag.part} onPart={onPart} selected={selected} className="figure bg-measure px-2 py-1 font-bold text-on-ink">
            {flagText(plan, flag.part, i, reading, readings)}
          </PartButton>{" "}
          <span className="flex-1">{flag.where}</span>
          {(i === 0 ? (plan.drawing.valves ?? []) : [])
            .filter((v) => v.small && v.upright && !v.part.startsWith("link:"))
            .map((v) => (
              <ValveButton key={v.valve} valve={v.valve} label={v.label} closed={isShut(plan, v.valve, shut)} chosen={selected === v.part} onPress={pressOf(v.valve, v.part)} />
            ))}
        </p>
      ))}
    </div>
  );
}

interface Row {
  key: string;
  part: string;
  label: string;
  valve?: string;
  conductance?: number;
  share?: number;
}

/** What of the plan belongs to a part on the way to a port, and the port after the last one. */
function rows(plan: PlanOut, part: string, port: string): Row[] {
  const own = plan.parts.filter((p) => p.name === part || (p.name.startsWith(`${part}.`) && (p.side === port || p.side === "")));
  const valve = plan.valves[part] ? part : undefined;
  const found: Row[] = own.map((p) => ({
    key: p.name,
    part,
    label: p.label,
    valve: valve ?? (plan.valves[p.name] ? p.name : undefined),
    conductance: p.conductance_m3_s,
    share: p.share,
  }));
  const last = plan.drawing.ways?.find((w) => w.port === port)?.parts.slice(-1)[0];
  if (last === part)
    found.push(
      ...plan.parts
        .filter((p) => p.name === `${port}.port`)
        .map((p) => ({ key: p.name, part: p.name, label: `${p.label}, ${port.replaceAll("-", " ")}`, conductance: p.conductance_m3_s, share: p.share })),
    );
  return found;
}

/** A valve to press: its bar lies along the pipe when open, across it when shut. */
function ValveButton({ valve, label, closed, chosen, onPress }: { valve: string; label: string; closed: boolean; chosen: boolean; onPress?: () => void }) {
  return (
    <button type="button" data-touch={`valve:${valve}`} onClick={onPress} disabled={!onPress} aria-label={`${label}, ${closed ? "closed" : "open"}`} className="-mx-1 grid size-12 flex-none place-items-center">
      <span className={`grid size-8 place-items-center rounded-full border-2 bg-sheet ${chosen ? "border-measure" : "border-ink"}`}>
        <span className={`rounded-full ${closed ? "h-[5px] w-5 bg-stop" : "h-5 w-[5px] bg-green"}`} />
      </span>
    </button>
  );
}

function PartButton({
  part,
  onPart,
  selected,
  className,
  children,
}: {
  part: string;
  onPart?: (p: string) => void;
  selected?: string | null;
  className: string;
  children: React.ReactNode;
}) {
  if (!onPart) return <span className={`block ${className}`}>{children}</span>;
  return (
    <button type="button" data-touch={`part:${part}`} onClick={() => onPart(part)} aria-pressed={selected === part} className={`min-h-11 ${className} ${selected === part ? "underline decoration-[3px] underline-offset-4" : ""}`}>
      {children}
    </button>
  );
}
