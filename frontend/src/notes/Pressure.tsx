import { useState } from "react";

import type { PressureNote } from "../api/client";
import { MICRON_PA } from "../lib/format";
import { useUnits } from "../lib/units";
import { Fault, Sheet } from "../ui/Sheet";
import { SelectField } from "../ui/Choice";
import { NumberField } from "../ui/Field";
import { Waits } from "../ui/Waits";
import { useNote } from "./ask";
import { Relation } from "./Relation";
import { Row } from "./Row";
import { WaterChart } from "./WaterChart";

const UNITS: { value: string; label: string; pa: number }[] = [
  { value: "micron", label: "µ", pa: MICRON_PA },
  { value: "pa", label: "Pa", pa: 1 },
  { value: "mbar", label: "mbar", pa: 100 },
  { value: "torr", label: "Torr", pa: 101325 / 760 },
  { value: "kpa", label: "kPa", pa: 1000 },
  { value: "inhg", label: "inHg absolute", pa: 3386.389 },
  { value: "psi", label: "psi absolute", pa: 6894.757 },
];

/** A pressure in every unit, and where water boils at it, on water's own curve. */
export function Pressure() {
  const [unit, setUnit] = useState("micron");
  const [value, setValue] = useState<number | null>(500);
  const [celsius, setCelsius] = useState<number | null>(null);
  const per = UNITS.find((u) => u.value === unit)!.pa;
  const found = useNote<PressureNote>("pressure", celsius !== null ? { boils_c: celsius } : { pa: (value ?? 500) * per });
  const n = found.data;
  const u = useUnits();
  const fig = (v: number) => (v >= 1000 ? u.fixed(v, v >= 20000 ? 0 : 1) : u.significant(v, 4));
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(280px,400px)_minmax(0,1fr)]">
      <Sheet title="Pressure and boiling point">
        <div className="grid gap-3">
          <div className="grid grid-cols-2 gap-2">
            <NumberField
              key={unit}
              label="Pressure"
              value={value}
              onChange={(v) => {
                setCelsius(null);
                setValue(v);
              }}
              min={0.00001}
              max={200000 / per}
            />
            <SelectField label="in" value={unit} onChange={setUnit} options={UNITS} />
          </div>
          <NumberField label="or: water is to boil at" dim="temperature" value={celsius} onChange={setCelsius} min={-60} max={100} optional />
        </div>
        {found.isPending && <Waits />}
        {found.error && <Fault title="No answer" detail={found.error.message} />}
        {n && (
          <ul className="mt-3 list-none p-0" aria-live="polite">
            <Row strong label={n.state === "boils" ? "water boils at" : `ice goes to ${u.spelled("vapor")} at`} value={n.boils_c === null || n.boils_c === undefined ? "off the curve" : `${u.fixed(u.shown("temperature", n.boils_c), 1)} ${u.label("temperature")}`}>
              <Relation relation={n.state === "boils" ? "saturation, liquid" : "saturation, ice"} />
            </Row>
            {UNITS.map((one) => (
              <Row key={one.value} label={one.label} value={fig(n.units[one.value] ?? 0)}>
                {one.value === "micron" && <Relation relation="units" />}
              </Row>
            ))}
            <Row label="on a dial at sea level" value={`${u.fixed(n.depth_inhg, 2)} inHg`}>
              <Relation relation="dial gauge" />
            </Row>
          </ul>
        )}
      </Sheet>
      <Sheet title="Water and ice" aside={<Relation relation="saturation, liquid">IAPWS</Relation>}>
        <WaterChart at={n ? { pa: n.pa, c: n.boils_c ?? null } : null} />
      </Sheet>
    </div>
  );
}
