import type { PlanOut } from "../api/client";
import { RigLine } from "../rig/RigLine";
import { Sheet, Tag } from "../ui/Sheet";

/** What is joined to a pumped port with the valves as they stand, before the pump runs. */
export function Reach({ plan, onLink }: { plan: PlanOut; onLink: (link: string) => void }) {
  const left = plan.left_out;
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
      <RigLine plan={plan} onValve={(v) => v.startsWith("system.") && onLink(v.slice(7))} />
    </Sheet>
  );
}
