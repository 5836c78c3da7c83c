import type { PlanOut } from "../api/client";
import { useNarrow } from "../lib/narrow";
import { RigLine } from "../rig/RigLine";
import { Sheet, Tag } from "../ui/Sheet";

/** What is joined to a pumped port with the valves as they stand, before the pump runs. */
export function Reach({ plan, onLink }: { plan: PlanOut; onLink: (link: string) => void }) {
  const left = plan.left_out;
  const narrow = useNarrow();
  return (
    <Sheet strong className="p-3!">
      <p className="mb-1" aria-live="polite">
        {left.length === 0 ? (
          <>
            <Tag tone="pass">all reached</Tag> Every section that is to be evacuated is joined to a pumped port.
          </>
        ) : (
          <>
            <Tag tone="stop">not reached</Tag> <b>{left.join(", ")}</b>: closed off from every pumped port. Nothing on the gauge would show it.
          </>
        )}
      </p>
      <details open={!narrow || left.length > 0}>
        <summary className={narrow ? "cursor-pointer py-3 font-bold" : "sr-only"}>The system and the rig on it</summary>
        <RigLine plan={plan} onValve={(v) => v.startsWith("system.") && onLink(v.slice(7))} />
      </details>
    </Sheet>
  );
}
