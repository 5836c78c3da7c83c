import type { RigChoice, RigsOut } from "../api/client";
import { capital } from "../lib/capital";
import { SelectField } from "../ui/Choice";

/** A rig as far as it is chosen: a setup, and numbers of the van's parts by place. */
export type Chosen = Required<RigChoice>;
export const NOTHING: Chosen = { pattern: "", parts: {} };
/** The sheet's own rig stands in the list beside the setups of the van. */
export const OWN: Chosen = { pattern: "own", parts: {} };
export const AS_IT_STANDS = { value: OWN.pattern, label: "As it stands on the sheet" };

/** The rig of the van that is chosen; null stands for the sheet's own. */
export const ofTheVan = (chosen: Chosen): Chosen | null => (chosen.pattern === OWN.pattern ? null : chosen);

/** Whether every place of the setup has its part; the sheet's own rig has them all. */
export const isWhole = (rigs: RigsOut | undefined, chosen: Chosen): boolean => {
  if (ofTheVan(chosen) === null) return true;
  const setup = rigs?.rigs.find((r) => r.pattern === chosen.pattern);
  return setup !== undefined && setup.slots.every((s) => chosen.parts[s.slot] !== undefined);
};

/** A setup, and what of the van goes into its places. */
export function RigSlots({ rigs, chosen, onChange, more = [] }: { rigs: RigsOut | undefined; chosen: Chosen; onChange: (next: Chosen) => void; more?: { value: string; label: string }[] }) {
  const setup = rigs?.rigs.find((r) => r.pattern === chosen.pattern);
  const taken = (slot: string) => Object.entries(chosen.parts).filter(([s]) => s !== slot).map(([, n]) => n);
  return (
    <>
      <SelectField label="Setup" value={chosen.pattern} onChange={(pattern) => onChange({ pattern, parts: {} })} options={[...more, ...(rigs?.rigs ?? []).map((r) => ({ value: r.pattern, label: r.name }))]} />
      {setup && <p className="text-soft">{setup.words}</p>}
      <div className="grid gap-3 sm:grid-cols-2">
        {setup?.slots.map((s) => (
          <SelectField
            key={s.slot}
            label={capital(s.where)}
            value={chosen.parts[s.slot] === undefined ? "" : String(chosen.parts[s.slot])}
            onChange={(v) => onChange({ ...chosen, parts: { ...chosen.parts, [s.slot]: Number(v) } })}
            options={(rigs?.van ?? []).filter((k) => k.kind === s.kind && !taken(s.slot).includes(k.id)).map((k) => ({ value: String(k.id), label: k.name }))}
          />
        ))}
      </div>
    </>
  );
}
