import type { Job, PlanOut, SystemOut } from "../api/client";
import { micron, microns, percent } from "../lib/format";
import { layout, ribbon, stroke, VIEW } from "./layout";

export interface RigLineProps {
  job: Job;
  plan: PlanOut;
  system: SystemOut;
  /** Pressure by section, Pa, as computed for now; empty where nothing is known. */
  pressures?: Record<string, number>;
  reading?: string;
  shut?: boolean;
  onValve?: () => void;
}

/** Pump to system in one drawn line; a vertical run on a phone. */
export function RigLine(props: RigLineProps) {
  return (
    <>
      <div className="hidden md:block">
        <Drawn {...props} />
      </div>
      <div className="md:hidden">
        <Upright {...props} />
      </div>
      <Ribbon plan={props.plan} />
    </>
  );
}

/** Tone of a compartment: paler the emptier, on the decades from atmosphere to 100 µ. */
function tone(pa: number | undefined): string {
  if (pa === undefined) return "transparent";
  const share = Math.min(1, Math.max(0, Math.log10(Math.max(micron(pa), 100) / 100) / 3.9));
  return `rgb(var(--tone) / ${(0.06 + 0.34 * share).toFixed(3)})`;
}

function Drawn({ job, plan, system, pressures = {}, reading, shut = false, onValve }: RigLineProps) {
  const line = layout(job, plan, system);
  const y = 48;
  const pump = job.rig?.pump;
  return (
    <svg viewBox={`0 -8 ${VIEW.width} ${VIEW.height + 8}`} className="w-full" role="group" aria-label="Rig line, pump to system">
      {line.strokes.map((s, i) => (
        <g key={i}>
          <path d={s.d} fill="none" stroke="var(--ink)" strokeWidth={s.width} strokeLinejoin="miter" />
          {s.label && (
            <text x={s.label.x} y={s.label.y} textAnchor="middle" fontSize="14" fill="var(--soft)">
              {s.label.text}
            </text>
          )}
        </g>
      ))}
      {line.texts.map((t, i) => (
        <text key={i} x={t.x} y={t.y} textAnchor="middle" fontSize="14" fill="var(--soft)">
          {t.text}
        </text>
      ))}
      <BoxMark x={6} w={98} label={`${pump?.plate_cfm ?? 5} CFM`} figure={pressures.pump} />
      {line.manifold && <BoxMark x={line.manifold.x} w={92} label="manifold" figure={pressures.manifold} />}
      {line.boxes.map((b) => (
        <BoxMark key={b.name} x={b.x} w={b.w} label={b.label} figure={pressures[b.name]} />
      ))}
      {line.valves.map((v) => (
        <g
          key={v.side}
          role={onValve ? "button" : "img"}
          tabIndex={onValve ? 0 : undefined}
          aria-label={`${v.label}, ${shut ? "shut" : "open"}`}
          onClick={onValve}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onValve?.()}
          className={onValve ? "cursor-pointer" : ""}
        >
          <circle cx={v.x} cy={v.y} r="26" fill="transparent" />
          <circle cx={v.x} cy={v.y} r="19" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.5" />
          <rect
            x={v.x - 13}
            y={v.y - 3}
            width="26"
            height="6"
            rx="3"
            fill={shut ? "var(--stop)" : "var(--green)"}
            transform={shut ? `rotate(90 ${v.x} ${v.y})` : undefined}
          />
        </g>
      ))}
      <Flag x={Math.min(line.flag.x, VIEW.width - 130)} y={y} text={reading ?? "gauge"} />
    </svg>
  );
}

function BoxMark({ x, w, label, figure}: { x: number; w: number; label: string; figure?: number }) {
  return (
    <g>
      <rect x={x} y={18} width={w} height={60} rx="6" fill="var(--sheet)" />
      <rect x={x} y={18} width={w} height={60} rx="6" fill={tone(figure)} stroke="var(--ink)" strokeWidth="2.5" />
      <text x={x + w / 2} y={figure === undefined ? 53 : 45} textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--ink)">
        {label}
      </text>
      {figure !== undefined && (
        <text x={x + w / 2} y={66} textAnchor="middle" fontSize="15" fill="var(--ink)" className="figure">
          {microns(figure)} µ
        </text>
      )}
    </g>
  );
}

function Flag({ x, y, text }: { x: number; y: number; text: string }) {
  const w = 24 + text.length * 8.6;
  return (
    <g>
      <path d={`M${x} ${y - 30}V${y - 42}`} stroke="var(--measure)" strokeWidth="3" />
      <rect x={x - 1.5} y={y - 56} width={w} height="22" fill="var(--measure)" />
      <text x={x + w / 2} y={y - 40} textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--on-measure)" className="figure">
        {text}
      </text>
    </g>
  );
}

/** The same run on a phone: pump at the top, system at the foot. */
function Upright({ job, plan, system, pressures = {}, reading, shut = false, onValve }: RigLineProps) {
  const order = ["pump", "hose", "manifold", "tool", "port"];
  const sides = (job.rig?.paths ?? []).map((p) => p.port ?? "suction");
  const gauge = job.rig?.gauge?.place ?? "";
  return (
    <div>
      <div className="mb-1 rounded-[6px] border-2 border-ink px-3 py-2 text-center font-bold">
        {job.rig?.pump?.plate_cfm ?? 5} CFM pump
        {pressures.pump !== undefined && <span className="figure ml-2 font-normal">{microns(pressures.pump)} µ</span>}
      </div>
      <div className="grid gap-3" style={{ gridTemplateColumns: `repeat(${sides.length}, 1fr)` }}>
        {sides.map((side) => (
          <ol key={side} className="list-none p-0">
            {plan.parts
              .filter((p) => p.side === side || (p.side === "" && p.kind !== "pump"))
              .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind))
              .map((p) => (
                <li key={p.name} className="flex min-h-11 items-stretch gap-2">
                  <span className="grid w-8 flex-none justify-center">
                    {p.kind === "tool" ? (
                      <button
                        type="button"
                        onClick={onValve}
                        disabled={!onValve}
                        aria-label={`${side} tool, ${shut ? "shut" : "open"}`}
                        className="-ml-2 grid size-12 place-items-center"
                      >
                        <span className="grid size-8 place-items-center rounded-full border-2 border-ink bg-sheet">
                          <span className={`rounded-full ${shut ? "h-[5px] w-5 bg-stop" : "h-5 w-[5px] bg-green"}`} />
                        </span>
                      </button>
                    ) : (
                      <span className="bg-ink" style={{ width: stroke(p.conductance_m3_s) }} />
                    )}
                  </span>
                  <span className="self-center leading-tight">
                    {p.label} <span className="figure whitespace-nowrap text-soft">{percent(p.share)}</span>
                    {(gauge === `tool:${side}` && p.kind === "tool") || (gauge === `port:${side}` && p.kind === "port") ? (
                      <span className="figure ml-1 bg-measure px-1.5 font-bold" style={{ color: "var(--on-measure)" }}>
                        {reading ?? "gauge"}
                      </span>
                    ) : null}
                  </span>
                </li>
              ))}
          </ol>
        ))}
      </div>
      <ul className="mt-1 list-none p-0">
        {system.sections.map((s) => (
          <li key={s.name} className="-mt-0.5 flex justify-between border-2 border-ink px-3 py-2" style={{ background: tone(pressures[s.name]) }}>
            <span className="font-bold">{s.label}</span>
            {gauge.endsWith(`:${s.name}`) && !(job.rig?.paths ?? []).some((p) => p.port === s.name) && (
              <span className="figure bg-measure px-1.5 font-bold" style={{ color: "var(--on-measure)" }}>
                {reading ?? "gauge"}
              </span>
            )}
            {pressures[s.name] !== undefined && <span className="figure">{microns(pressures[s.name]!)} µ</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

const SLICE: Record<string, string> = {
  pump: "bg-green-wash",
  hose: "bg-strong",
  manifold: "hatch bg-rule",
  tool: "bg-rule",
  port: "bg-ochre-wash",
};

/** The ribbon: where the resistance is, at the target. */
function Ribbon({ plan }: { plan: PlanOut }) {
  const slices = ribbon(plan);
  return (
    <div className="mt-2">
      <div className="flex gap-[3px]" role="img" aria-label={`Resistance: ${slices.map((s) => `${s.label} ${percent(s.share)}`).join(", ")}`}>
        {slices.map((s) => (
          <span
            key={s.kind}
            className={`h-7 min-w-0 overflow-hidden px-2 text-[14px] leading-7 font-bold text-ellipsis whitespace-nowrap ${SLICE[s.kind]}`}
            style={{ flex: `${Math.max(s.share, 0.015)} 1 0` }}
            title={`${s.label} ${percent(s.share)}`}
          >
            {s.share > 0.07 ? `${s.label} ${percent(s.share)}` : ""}
          </span>
        ))}
      </div>
    </div>
  );
}
