import { Link } from "react-router";

import { useReadings, useVerdict } from "../api/queries";
import { HoldRead } from "../hold/HoldRead";
import { Photos } from "../record/Photos";
import { useReach } from "../lib/reach";
import { Computed } from "../ui/Computed";
import { Fault, Sheet } from "../ui/Sheet";
import { DarkHold } from "./DarkHold";
import { NextCard } from "./Draw";
import { Source } from "./Source";
import type { StageProps } from "./types";
import { Word } from "../ui/Word";
import { Waits } from "../ui/Waits";

/** The hold: the verdict first, then why. */
export function Hold({ jobKey, live }: StageProps) {
  const running = live?.phase === "hold" && live.standin;
  const verdict = useVerdict(jobKey, running);
  const readings = useReadings(jobKey);
  const dark = !useReach().ok;
  if (verdict.error && verdict.data === undefined) return <Fault title="The hold test cannot be read" detail={verdict.error.message} />;
  if (!live || ((verdict.isPending || readings.isPending) && !dark)) return <Waits>Reading the hold test…</Waits>;
  if (!verdict.data && live.phase === "hold" && dark) return <DarkHold jobKey={jobKey} live={live} series={readings.data ?? []} />;
  if (!verdict.data)
    return (
      <Sheet className="mx-auto max-w-xl" strong>
        <h2 className="text-heading">No hold test yet</h2>
        <p className="mt-2">
          The hold test begins when the system is <Word of="isolate">isolated</Word>; the pump is stopped after that. {live.started_at ? "The draw is still going." : "The pump has not been started."}
        </p>
        <Link to={`/jobs/${jobKey}/draw`} className="mt-3 inline-block min-h-12 py-3 font-bold underline">
          To the draw
        </Link>
      </Sheet>
    );
  return (
    <HoldRead v={verdict.data} series={readings.data ?? []} now={live.now} running={running} jobKey={jobKey}>
      {(running || dark) && live.pump_on && <NextCard live={live} jobKey={jobKey} />}
      <Sheet className="p-3!">
        {live.phase === "hold" && !live.standin && <Source jobKey={jobKey} live={live} hasReadings />}
        <Photos jobKey={jobKey} about="hold-end" of="the gauge" />
        <Computed what="Verdict" at={verdict.dataUpdatedAt} />
      </Sheet>
    </HoldRead>
  );
}
