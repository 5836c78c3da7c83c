import type { PossibleOut } from "../api/client";
import { NumberField } from "../ui/Field";
import { Segments } from "../ui/Segments";
import { Tick } from "../ui/Tick";

/** How bad something is (a normal deviate), and after how many minutes it begins. */
interface Bad {
  severity: number;
  after: number;
}

/** What is wrong with a system and its rig: causes by key, links that really are shut, what a look before it finds. */
export interface Wrongs {
  faults: Record<string, Bad>;
  shut: string[];
  found: string[];
}
export const NOTHING_WRONG: Wrongs = { faults: {}, shut: [], found: [] };

/** The same as a scenario holds it. */
export const hiddenOf = (wrong: Wrongs, seed: number) => ({ seed, faults: Object.entries(wrong.faults).map(([key, f]) => ({ key, severity: f.severity, at_s: f.after * 60 })), shut: wrong.shut, found: wrong.found });

export const BAD = [
  { value: "-1", label: "mild" },
  { value: "0", label: "usual" },
  { value: "1", label: "bad" },
];

const without = (faults: Wrongs["faults"], key: string, put: Bad | null): Wrongs["faults"] => {
  const rest = Object.fromEntries(Object.entries(faults).filter(([k]) => k !== key));
  return put ? { ...rest, [key]: put } : rest;
};

const turned = (names: string[], name: string, on: boolean): string[] => (on ? [...names, name] : names.filter((n) => n !== name));

/** Anything that can be wrong, freely chosen. `asFound`: what a look before the draw finds as well. */
export function Wrong({ possible, wrong, onChange, asFound = false }: { possible: PossibleOut | undefined; wrong: Wrongs; onChange: (next: Wrongs) => void; asFound?: boolean }) {
  const faults = (next: Wrongs["faults"]) => onChange({ ...wrong, faults: next });
  return (
    <fieldset>
      <legend className="mb-1 text-soft">What is wrong with it</legend>
      <ul className="grid max-h-64 list-none gap-1 overflow-auto p-0">
        {(possible?.faults ?? []).map((f) => (
          <li key={f.value} className="flex flex-wrap items-center gap-2 border-b border-rule">
            <Tick
              label={f.label}
              on={f.value in wrong.faults}
              onChange={(on) =>
                faults(without(wrong.faults, f.value, on ? { severity: 0, after: 0 } : null))
              }
            />
            {f.value in wrong.faults && (
              <>
                <Segments label="how bad" value={String(wrong.faults[f.value]!.severity)} onChange={(v) => faults({ ...wrong.faults, [f.value]: { ...wrong.faults[f.value]!, severity: Number(v) } })} options={BAD} />
                {f.later && (
                  <NumberField label="begins after" unit="min" min={0} max={1440} value={wrong.faults[f.value]!.after} onChange={(v) => faults({ ...wrong.faults, [f.value]: { ...wrong.faults[f.value]!, after: v ?? 0 } })} />
                )}
              </>
            )}
          </li>
        ))}
        {(possible?.links ?? []).map((x) => (
          <li key={x.value}>
            <Tick
              label={`the ${x.label} (${x.note.replaceAll("-", " ")}) is really closed`}
              on={wrong.shut.includes(x.value)}
              onChange={(on) => onChange({ ...wrong, shut: turned(wrong.shut, x.value, on) })}
            />
          </li>
        ))}
        {asFound &&
          (possible?.found ?? []).map((x) => (
            <li key={x.value}>
              <Tick label={`as it is found: ${x.label}`} on={wrong.found.includes(x.value)} onChange={(on) => onChange({ ...wrong, found: turned(wrong.found, x.value, on) })} />
            </li>
          ))}
      </ul>
    </fieldset>
  );
}
