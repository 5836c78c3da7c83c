import { Ruler } from "lucide-react";
import { Popover } from "radix-ui";

import { useSaveSettings, useSettings, type Dim } from "../lib/units";
import { Segments } from "../ui/Choice";

const DIMS: { dim: Dim; label: string }[] = [
  { dim: "pressure", label: "Vacuum" },
  { dim: "gauge", label: "Gauge pressure" },
  { dim: "temperature", label: "Temperature" },
  { dim: "flow", label: "Flow" },
  { dim: "length", label: "Length" },
  { dim: "mass", label: "Weight" },
  { dim: "volume", label: "Volume" },
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
          {data &&
            DIMS.map(({ dim, label }) => (
              <Segments
                key={dim}
                label={label}
                value={data.settings[dim] ?? ""}
                options={(data.units[dim] ?? []).map((u) => ({ value: u.key, label: u.label }))}
                onChange={(v) => save.mutate({ ...data.settings, [dim]: v })}
              />
            ))}
          {data && (
            <Segments
              label="English"
              value={data.settings.english ?? "us"}
              options={[
                { value: "us", label: "US" },
                { value: "uk", label: "UK" },
              ]}
              onChange={(english) => save.mutate({ ...data.settings, english })}
            />
          )}
          {save.error && <p className="text-stop">Not kept: {save.error.message}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
