import { clock } from "../lib/format";
import { useReach } from "../lib/reach";

/** When something was last worked out: what is looked at without signal may be old. */
export function Computed({ what, at }: { what: string; at: number }) {
  const reach = useReach();
  if (!at) return null;
  return (
    <p className={`text-note ${reach.ok ? "text-soft" : "border-l-4 border-ochre pl-2"}`}>
      {what} worked out <span className="figure">{clock(at / 1000, true)}</span>
      {reach.ok ? "" : ", not anew since the signal went"}
    </p>
  );
}
