import type { GateOut } from "../api/client";

export const STATE_WORDS: Record<GateOut["state"], string> = {
  open: "still to check",
  passed: "checked",
  stated: "stated, no evidence",
  doubtful: "doubtful",
  failed: "not good",
  skipped: "skipped",
};

const LOOK: Record<GateOut["state"], [string, string]> = {
  open: ["border-strong", ""],
  passed: ["border-green bg-green-wash text-green", "✓"],
  stated: ["border-green text-green border-dashed", "✓"],
  doubtful: ["border-ochre bg-ochre-wash text-ochre", "?"],
  failed: ["border-stop bg-stop-wash text-stop", "✕"],
  skipped: ["border-ochre text-ochre", "–"],
};

/** How a gate stands: a sign, a word for those who hear it, and a colour beside. */
export function GateMark({ state }: { state: GateOut["state"] }) {
  const [look, sign] = LOOK[state];
  return (
    <span role="img" aria-label={STATE_WORDS[state]} className={`grid size-9 flex-none place-items-center rounded-[5px] border-[3px] text-order leading-none font-bold ${look}`}>
      {sign}
    </span>
  );
}
