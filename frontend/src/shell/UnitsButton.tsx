import { Ruler } from "lucide-react";
import { Popover } from "radix-ui";

import { useSaveSettings, useSettings, type Dim } from "../lib/units";
import { Segments } from "../ui/Segments";
import { WholeSets } from "./WholeSets";

const DIMS: { dim: Dim; label: string }[] = [
  { dim: "pressure", label: "Vacuum" },
  { dim: "gauge", label: "Gauge pressure" },
  { dim: "temperature", label: "Temperature" },
  { dim: "flow", label: "Flow" },
  { dim: "length", label: "Length" },
  { dim: "mass", label: "Weight" },
  { dim: "volume", label: "Volume" },
  { dim: "capacity", label: "Capacity" },
  { dim: "barometer", label: "Barometer" },
];

/** Units, from anywhere: what is on screen changes at once. */
export function UnitsButton() {
  const { data } = useSettings();
  const save = useSaveSettings();
  return (
    <Popover.Root>
      <Popover.Trigger className="flex min-h-14 flex-1 items-center justify-center gap-1.5 font-bold text-soft hover:text-ink md:mt-auto md:flex-none">
        <Ruler size={17} aria-hidden /> <span className="max-md:sr-only">Units</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="right" align="end" sideOffset={10} collisionPadding={12} className="sheet z-50 grid max-h-[86vh] w-[min(92vw,430px)] gap-3 overflow-auto p-4">
          <h2 className="text-lead">Units and English</h2>
          {data && (
            <div className="flex flex-wrap gap-x-6 gap-y-3">
              <WholeSets settings={data.settings} onChange={(settings) => save.mutate(settings)} />
            </div>
          )}
          {data && (
            <Segments
              label="Numbers"
              value={data.settings.numbers ?? "point"}
              options={[
                { value: "point", label: "1,234.5" },
                { value: "comma", label: "1.234,5" },
                { value: "space", label: "1 234,5" },
              ]}
              onChange={(numbers) => save.mutate({ ...data.settings, numbers })}
            />
          )}
          {data &&
            DIMS.map(({ dim, label }) => (
              <Segments
                key={dim}
                label={label}
                value={String((data.settings as Record<string, unknown>)[dim] ?? "")}
                options={(data.units[dim] ?? []).map((u) => ({ value: u.key, label: u.label }))}
                onChange={(v) => save.mutate({ ...data.settings, [dim]: v })}
              />
            ))}
          {save.error && <p className="text-stop">Not kept: {save.error.message}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
