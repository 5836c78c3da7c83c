import type { Choice, ScopeDoc } from "../api/client";
import { useUnits } from "../lib/units";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField, TextField } from "../ui/Field";

type Scope = ScopeDoc;
type Added = NonNullable<Scope["added"]>;

const ANOTHER = "another";
/** The sheet holds it absolute; tables and dials are over the air. */
const AIR_KPA = 101.325;
const CLASSES = (["A1", "A2L", "A2", "A3", "B1", "B2L", "B2", "B3"] as const).map((value) => ({ value, label: value }));
const BLANK: Added = { safety: "A1", molar_mass_g: 90, zeotropic: true };

/** The refrigerant: one of the catalogue's, or another by its name and what its data sheet says. */
export function RefrigerantFields({ scope, set, known }: { scope: Scope; set: (change: Partial<Scope>, how?: "once" | "typing") => void; known: Choice[] }) {
  const u = useUnits();
  const added = scope.added;
  const own = (change: Partial<Added>, how: "once" | "typing" = "typing") => set({ added: { ...BLANK, ...added, ...change } }, how);
  const choose = (v: string) => (v === ANOTHER ? set({ refrigerant: "Another", added: BLANK }, "once") : set({ refrigerant: v, added: null }, "once"));
  return (
    <>
      <SelectField label="Refrigerant" value={added ? ANOTHER : (scope.refrigerant ?? "")} options={[...known, { value: ANOTHER, label: "another, by name", note: "" }]} onChange={choose} />
      {added && (
        <>
          <TextField label="Its name" value={scope.refrigerant ?? ""} onChange={(v) => v.trim() && set({ refrigerant: v.slice(0, 40) }, "typing")} />
          <SelectField label="Its safety class" value={added.safety ?? "A1"} options={CLASSES} onChange={(v) => own({ safety: v as Added["safety"] }, "once")} />
          <NumberField label="Its molar mass" unit="g/mol" min={2} max={400} value={added.molar_mass_g} onChange={(v) => v !== null && own({ molar_mass_g: v })} />
          <NumberField
            label={`Its pressure at ${u.say("temperature", 40)}, if known`}
            dim="gauge"
            per={1000}
            optional
            min={-90}
            max={19000}
            value={added.pressure_40c_kpa == null ? null : added.pressure_40c_kpa - AIR_KPA}
            onChange={(v) => own({ pressure_40c_kpa: v === null ? null : v + AIR_KPA })}
          />
          <Segments
            label="It is"
            value={added.zeotropic ? "blend" : "one"}
            options={[
              { value: "blend", label: "a blend with glide" },
              { value: "one", label: "one boiling point" },
            ]}
            onChange={(v) => own({ zeotropic: v === "blend" }, "once")}
          />
          <p className="text-soft sm:col-span-2">Its saturation is not in the tables here: what needs it says so, and the adder is typed.</p>
        </>
      )}
    </>
  );
}
