import type { Drawing, Round } from "../api/client";
import { useUnits } from "../lib/units";
import { conductanceOf, strokeWidth } from "./parts";
import { flagText, isShut, spoken, tone, type RigLineProps } from "./line";

type Box = Drawing["boxes"] extends (infer B)[] | undefined ? B : never;

/** The rig line as the server laid it out. */
export function Drawn({ plan, pressures = {}, reading, readings, shut = [], selected, onPart, onValve, onSection }: RigLineProps) {
  const u = useUnits();
  const d = plan.drawing;
  const width = d.width ?? 1120;
  const height = d.height ?? 140;
  const touched = (part: string, section = false) => {
    const act = section ? onSection : onPart;
    return act ? () => act(part) : undefined;
  };
  const names = spoken(plan);
  // A part that is drawn in several pieces is one thing to press for the keys and for who listens.
  const first = new Map<string, string>();
  for (const b of d.boxes ?? []) first.set(b.name, `box:${b.name}`);
  (d.strokes ?? []).forEach((s, i) => first.has(s.part) || first.set(s.part, `stroke:${i}`));
  const press = (part: string, label: string, section = false, piece?: string) => {
    const act = touched(part, section);
    if (act && piece && first.get(part) !== piece) return { "aria-hidden": true, onClick: act, className: "cursor-pointer" };
    return act && !part.endsWith(".port") && !part.startsWith("link:")
      ? {
          role: "button",
          tabIndex: 0,
          "data-touch": `part:${part}`,
          "aria-label": `${label}${selected === part ? ", chosen" : ""}`,
          onClick: act,
          onKeyDown: (e: React.KeyboardEvent) => {
            if (e.key === "Enter" || e.key === " ") {
              e.preventDefault();
              act();
            }
          },
          className: "cursor-pointer",
        }
      : {};
  };
  return (
    <svg viewBox={`0 0 ${width} ${height}`} style={{ minWidth: Math.min(0.84 * width, 1500), maxHeight: 460 }} className="w-full" role="group" aria-label="Rig line, pump to system">
      {(d.strokes ?? []).map((s, i) => {
        const c = conductanceOf(plan, s.part);
        const ink = selected === s.part ? "var(--measure)" : "var(--ink)";
        return (
          <g key={i} {...press(s.part, names.get(s.part) ?? s.label, false, `stroke:${i}`)}>
            {touched(s.part) && <path d={s.path} fill="none" stroke="transparent" strokeWidth={44} />}
            <path d={s.path} fill="none" stroke={ink} strokeWidth={c === undefined ? 3.5 : strokeWidth(c)} strokeLinejoin="miter" />
            {s.label && (
              <text x={s.x} y={s.y} textAnchor="middle" fontSize="14" fill={selected === s.part ? "var(--ink)" : "var(--soft)"} fontWeight={selected === s.part ? 700 : 400}>
                {s.label}
              </text>
            )}
          </g>
        );
      })}
      {(d.boxes ?? []).map((b) => (
        <g key={b.name + b.kind}>
          <Compartment b={b} pa={pressures[b.name]} chosen={selected === b.name} say={(p) => u.say("pressure", p)} />
          <rect x={b.x} y={b.y} width={b.w} height={b.h ?? 60} rx="6" fill="transparent" {...press(b.name, names.get(b.name) ?? b.label, b.kind === "section", `box:${b.name}`)} />
        </g>
      ))}
      {(d.marks ?? []).map((m, i) => (
        <text key={i} x={m.x} y={m.y} textAnchor="middle" fontSize="14" fill="var(--soft)" className="pointer-events-none">
          {m.text}
        </text>
      ))}
      {(d.valves ?? []).map((v) => (
        <ValveMark key={v.valve} v={v} label={names.get(`valve:${v.valve}`) ?? v.label} shut={isShut(plan, v.valve, shut)} chosen={selected === v.part} onPress={onValve ? () => onValve(v.valve) : onPart && !v.part.startsWith("link:") ? () => onPart(v.part) : undefined} />
      ))}
      {(d.flags ?? []).map((f, i) => {
        const text = flagText(plan, f.part, i, reading, readings);
        const w = 24 + text.length * 8.6;
        const x = f.left ? f.x - 15 - w : Math.min(f.x, width - w - 4);
        return (
          <g key={f.part}>
            <path d={f.left ? `M${f.x} ${f.foot}H${x + w}` : `M${f.x} ${f.foot}V${f.y}`} stroke="var(--measure)" strokeWidth="3" />
            <rect x={x - 1.5} y={f.y - 1} width={w} height="24" fill="var(--measure)" stroke={selected === f.part ? "var(--ink)" : "none"} strokeWidth="2.5" />
            <text x={x + w / 2} y={f.y + 16} textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--on-measure)" className="figure">
              {text}
            </text>
            <rect x={x - 1.5} y={f.y - 1} width={w} height="24" fill="transparent" {...press(f.part, text === "gauge" ? text : `gauge, ${text}`)} />
          </g>
        );
      })}
    </svg>
  );
}

const STATE: Record<string, { dash?: string; note: string; ink: string }> = {
  pumped: { note: "", ink: "var(--ink)" },
  "left-out": { dash: "9 6", note: "not reached", ink: "var(--stop)" },
  charge: { dash: "2 5", note: "keeps its charge", ink: "var(--soft)" },
};

function Compartment({ b, pa, chosen, say }: { b: Box; pa: number | undefined; chosen: boolean; say: (pa: number) => string }) {
  const h = b.h ?? 60;
  const s = STATE[b.state ?? "pumped"] ?? STATE.pumped!;
  const under = s.note || (pa === undefined ? "" : say(pa));
  const lines = wrap(b.label, (b.w - 6) / 7.4);
  const first = b.y + h / 2 + 5 - (lines.length - 1) * 8 - (under ? 9 : 0);
  return (
    <>
      <rect x={b.x} y={b.y} width={b.w} height={h} rx="6" fill="var(--sheet)" />
      {b.state === "left-out" && <Hatched b={b} h={h} />}
      <rect x={b.x} y={b.y} width={b.w} height={h} rx="6" fill={b.state === "pumped" ? tone(pa) : "transparent"} stroke={chosen ? "var(--measure)" : s.ink} strokeWidth={chosen ? 4 : 2.5} strokeDasharray={s.dash} />
      {lines.map((l, i) => (
        <text key={i} x={b.x + b.w / 2} y={first + 16 * i} textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--ink)">
          {l}
        </text>
      ))}
      {under && (
        <text x={b.x + b.w / 2} y={b.y + h - 9} textAnchor="middle" fontSize="14" fill={s.note ? s.ink : "var(--ink)"} className={s.note ? "" : "figure"}>
          {under}
        </text>
      )}
    </>
  );
}

/** What is not known or not reached is hatched. */
function Hatched({ b, h }: { b: Box; h: number }) {
  const lines = [];
  for (let x = b.x - h + 10; x < b.x + b.w; x += 10) {
    const x0 = Math.max(b.x, x);
    const x1 = Math.min(b.x + b.w, x + h);
    lines.push(`M${x0} ${b.y + h - (x0 - x)}L${x1} ${b.y + h - (x1 - x)}`);
  }
  return <path d={lines.join("")} stroke="var(--strong-rule)" strokeWidth="1.2" />;
}

function ValveMark({ v, label, shut, chosen, onPress }: { v: Round; label: string; shut: boolean; chosen: boolean; onPress?: () => void }) {
  const r = v.small ? 12 : 19;
  const upright = (v.upright ?? false) !== shut;
  const long = 2 * r - 11;
  return (
    <g
      role={onPress ? "button" : "img"}
      tabIndex={onPress ? 0 : undefined}
      data-touch={onPress ? `valve:${v.valve}` : undefined}
      aria-label={`${label}, ${shut ? "closed" : "open"}`}
      onClick={onPress}
      onKeyDown={(e) => {
        if (onPress && (e.key === "Enter" || e.key === " ")) {
          e.preventDefault();
          onPress();
        }
      }}
      className={onPress ? "cursor-pointer" : ""}
    >
      <circle cx={v.x} cy={v.y} r={v.small ? 22 : 26} fill="transparent" />
      <circle cx={v.x} cy={v.y} r={r} fill="var(--sheet)" stroke={chosen ? "var(--measure)" : "var(--ink)"} strokeWidth={chosen ? 4 : 2.5} />
      <rect
        x={v.x - (upright ? 3 : long / 2)}
        y={v.y - (upright ? long / 2 : 3)}
        width={upright ? 6 : long}
        height={upright ? long : 6}
        rx="3"
        fill={shut ? "var(--stop)" : "var(--green)"}
      />
    </g>
  );
}

/** A label in one or two lines of at most `chars`. */
function wrap(text: string, chars: number): string[] {
  if (text.length <= chars) return [text];
  const parts = text.split(" ");
  let first = parts[0] ?? text;
  let i = 1;
  while (i < parts.length && (first + " " + parts[i]).length <= chars) first += " " + parts[i++];
  const rest = parts.slice(i).join(" ");
  return rest ? [first, rest.length > chars + 1 ? rest.slice(0, Math.max(3, Math.floor(chars))) + "…" : rest] : [first.slice(0, Math.max(4, Math.floor(chars)))];
}
