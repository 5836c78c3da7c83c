import type { Settings } from "../api/client";
import { SETS, setOf } from "../lib/units";
import { Segments } from "../ui/Segments";

/** Whose English, and a whole set of units at a stroke. */
export function WholeSets({ settings, onChange }: { settings: Settings; onChange: (settings: Settings) => void }) {
  return (
    <>
      <Segments
        label="English"
        value={settings.english ?? "us"}
        options={[
          { value: "us", label: "US" },
          { value: "uk", label: "UK" },
        ]}
        onChange={(english) => onChange({ ...settings, english })}
      />
      <Segments
        label="All units"
        value={setOf(settings)}
        options={[
          { value: "us", label: "American" },
          { value: "metric", label: "Metric" },
        ]}
        onChange={(k) => k !== "mixed" && onChange({ ...settings, ...SETS[k] })}
      />
    </>
  );
}
