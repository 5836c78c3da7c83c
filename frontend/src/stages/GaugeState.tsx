import { useEffect, useRef, useState } from "react";

import type { LiveOut } from "../api/client";
import { clock } from "../lib/format";

/** Which gauge speaks, how often, and the job's clock. Stale is said, not hidden. */
export function GaugeState({ live }: { live: LiveOut | undefined }) {
  const now = useJobClock(live);
  if (!live) return null;
  return (
    <p className="flex flex-wrap items-baseline justify-end gap-x-3">
      {live.standin && (
        <span>
          <span aria-hidden className={live.stale ? "text-ochre" : "text-green"}>
            {live.stale ? "◌" : "●"}
          </span>{" "}
          {live.gauge}, {live.stale ? "nothing heard" : live.outside ? "connected" : live.speed === 1 ? "1 a second" : `time ×${live.speed}`}
        </span>
      )}
      <span className="figure font-bold">{clock(now ?? live.now, true)}</span>
    </p>
  );
}

/** The job's clock between two answers of the server: it runs on at the gauge's pace. */
function useJobClock(live: LiveOut | undefined): number | null {
  const [shown, setShown] = useState<number | null>(null);
  const base = useRef({ now: 0, wall: 0, speed: 1 });
  useEffect(() => {
    if (live) base.current = { now: live.now, wall: Date.now(), speed: live.speed };
  }, [live]);
  useEffect(() => {
    const timer = window.setInterval(() => {
      const b = base.current;
      if (b.now > 0) setShown(b.now + ((Date.now() - b.wall) / 1000) * b.speed);
    }, 500);
    return () => window.clearInterval(timer);
  }, []);
  return shown;
}
