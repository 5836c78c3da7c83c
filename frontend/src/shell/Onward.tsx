import { ArrowRight } from "lucide-react";
import { Link } from "react-router";

import type { StageState } from "../api/client";
import { STAGE_NAMES } from "./StageRail";

/** The end of a stage: what it still misses, and the way to the next. */
export function Onward({ jobKey, stage, stages }: { jobKey: string; stage: string; stages: StageState[] }) {
  const at = stages.findIndex((s) => s.key === stage);
  const [here, next] = [stages[at], stages[at + 1]];
  // A good verdict has its own way on beside it.
  if (!here || !next || (stage === "hold" && !here.missing)) return null;
  return (
    <nav aria-label="Onward" className="mt-4 flex flex-wrap items-center justify-end gap-x-4 gap-y-1">
      {here.missing && <p className="text-soft">Missing here: {here.missing}</p>}
      <Link
        to={`/jobs/${jobKey}/${next.key}`}
        className={`casual inline-flex min-h-12 items-center gap-2 rounded-[5px] border-2 border-ink px-4 font-bold ${here.missing ? "bg-sheet text-ink hover:bg-green-wash" : "bg-ink text-on-ink"}`}
      >
        Go on to {STAGE_NAMES[next.key as keyof typeof STAGE_NAMES]} <ArrowRight size={18} aria-hidden />
      </Link>
    </nav>
  );
}
