import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";

import type { HoseAnswer, HoseRow } from "../api/client";
import { useCatalogue } from "../api/queries";
import { MICRON_PA, percent, span } from "../lib/format";
import { useUnits } from "../lib/units";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/Choice";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";
import { useNote } from "./ask";
import { Relation } from "./Relation";

type Filled = Required<HoseRow>;
const START: Filled[] = [
  { size: "1/4 in", length_m: 1.5, count: 1, cores_in: true },
  { size: "3/8 in", length_m: 1.5, count: 1, cores_in: false },
  { size: "1/2 in", length_m: 0.9, count: 2, cores_in: false },
];

/** Hook-ups side by side, live: what is left of the pump at the port, and the minutes. */
export function Hoses() {
  const u = useUnits();
  const sizes = useCatalogue().data?.hose_sizes ?? [];
  const [rows, setRows] = useState(START);
  const [cfm, setCfm] = useState<number | null>(5);
  const [volume, setVolume] = useState<number | null>(20);
  const [micron, setMicron] = useState<number | null>(200);
  const found = useNote<HoseAnswer[]>("hoses", { rows, cfm: cfm ?? 5, volume_l: volume ?? 20, target_pa: (micron ?? 200) * MICRON_PA });
  const change = (i: number, more: Partial<Filled>) => setRows((old) => old.map((r, n) => (n === i ? { ...r, ...more } : r)));
  const best = Math.max(...(found.data ?? []).map((a) => a.speed_m3_s), 1e-9);
  return (
    <div className="grid gap-3">
      <Sheet title="Hoses and cores, side by side" aside={<Relation relation="long tube" />}>
        <div className="grid gap-3 sm:grid-cols-3">
          <NumberField label="Pump" dim="flow" per={0.3048 ** 3 / 60} value={cfm} onChange={setCfm} min={0.5} max={30} />
          <NumberField label="Dry volume" dim="volume" value={volume} onChange={setVolume} min={0.05} max={2000} />
          <NumberField label="Target" dim="pressure" per={MICRON_PA} value={micron} onChange={setMicron} min={10} max={10000} />
        </div>
      </Sheet>
      {found.error && <Fault title="No answer" detail={found.error.message} />}
      <ul className="grid list-none gap-3 p-0 md:grid-cols-2 xl:grid-cols-3">
        {rows.map((r, i) => {
          const a = found.data?.[i];
          return (
            <li key={i} className="sheet p-4">
              <div className="grid grid-cols-2 gap-2">
                <SelectField label="Hose" value={r.size} onChange={(size) => change(i, { size })} options={sizes.map((s) => ({ value: s, label: s }))} />
                <NumberField label="Length" dim="length" value={r.length_m} onChange={(v) => v !== null && change(i, { length_m: v })} min={0.06} max={30} />
              </div>
              <div className="mt-2 flex flex-wrap gap-3">
                <Segments label="Hoses" value={String(r.count)} onChange={(v) => change(i, { count: Number(v) })} options={[1, 2].map((n) => ({ value: String(n), label: String(n) }))} />
                <Segments
                  label="Cores"
                  value={r.cores_in ? "in" : "out"}
                  onChange={(v) => change(i, { cores_in: v === "in" })}
                  options={[
                    { value: "out", label: "out" },
                    { value: "in", label: "in" },
                  ]}
                />
              </div>
              {a && (
                <div className="mt-3 border-t-2 border-ink pt-2" aria-live="polite">
                  <p className="flex items-baseline justify-between">
                    <span className="figure text-title font-bold">{a.seconds === null || a.seconds === undefined ? "over a day" : span(a.seconds)}</span>
                    <span className="figure">{u.say("flow", a.speed_m3_s)}</span>
                  </p>
                  <span className="mt-1 block h-3 rounded-[3px] border-2 border-ink">
                    <span className="block h-full bg-green" style={{ width: `${(100 * a.speed_m3_s) / best}%` }} />
                  </span>
                  <p className="mt-1 text-note text-soft">
                    at the port, at the target; the pump is {percent(a.pump_share)} of what holds it back. Most of all: {a.worst}, {percent(a.worst_share)}.
                  </p>
                </div>
              )}
              {rows.length > 1 && (
                <Button kind="quiet" className="mt-1 px-2!" aria-label={`Remove setup ${i + 1}`} onClick={() => setRows((old) => old.filter((_, n) => n !== i))}>
                  <Trash2 size={18} aria-hidden />
                </Button>
              )}
            </li>
          );
        })}
        {rows.length < 6 && (
          <li>
            <Button className="flex h-full min-h-24 w-full items-center justify-center gap-2" onClick={() => setRows((old) => [...old, { ...old[old.length - 1]! }])}>
              <Plus size={18} aria-hidden /> One more
            </Button>
          </li>
        )}
      </ul>
    </div>
  );
}
