import { useState } from "react";

import type { LiveOut } from "../api/client";
import { usePlan } from "../api/queries";
import { Hinted } from "../rig/Hinted";
import { RigLine } from "../rig/RigLine";
import { TouchDialog, kindOf, type Asked } from "../rig/TouchDialog";
import { Sheet } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** The rig line at the release: every touch is foreseen before it is made, as in the draw. */
export function ReleaseRig({ jobKey, version, live }: { jobKey: string; version: number; live: LiveOut | undefined }) {
  const plan = usePlan(jobKey, version);
  const [asked, setAsked] = useState<Asked>(null);
  if (!live || !plan.data) return plan.isPending && <Waits />;
  const isolated = live.isolated_at !== null && live.isolated_at !== undefined;
  const shut = [...live.shut, ...(isolated ? plan.data.isolate_valves : [])];
  const drawn = { ...plan.data, shut: plan.data.shut.filter((v) => !live.opened.includes(v)) };
  return (
    <Sheet title="The rig as it stands" fold="release-rig">
      <Hinted jobKey={jobKey} kindOf={(valve) => kindOf({ valve }, drawn, live, shut)}>
        <RigLine
          running
          plan={drawn}
          pressures={{}}
          reading="gauge"
          shut={shut}
          onValve={(valve) => setAsked({ valve })}
          onPart={(part) => setAsked(part === "pump" ? { valve: null } : { part })}
          onSection={(part) => setAsked({ part })}
        />
      </Hinted>
      <TouchDialog asked={asked} onClose={() => setAsked(null)} jobKey={jobKey} plan={drawn} live={live} shut={shut} />
    </Sheet>
  );
}
