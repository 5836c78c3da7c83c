import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

import { options } from "../api/options";

const WORDS = {
  engine: "The engine is being built, once on this machine. Sheets, kit and notes can be used meanwhile; plans and verdicts come when it is done.",
  demo: "The demo's jobs are being made.",
};

/** What a server that was started for the first time still makes, and how far it is; then everything is asked for again. */
export function Preparing() {
  const client = useQueryClient();
  const now = useQuery(options.health()).data?.preparing ?? null;
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !now) void client.invalidateQueries();
    was.current = now !== null;
  }, [client, now]);
  if (!now) return null;
  const part = Math.min(0.97, now.seconds / now.usual_s);
  return (
    <section aria-label="Being prepared" className="mb-2 rounded-[6px] border-[3px] border-ink bg-sheet px-3 py-2">
      <p role="status">{WORDS[now.what]}</p>
      <progress className="mt-1 block h-3 w-full accent-green" aria-label="How far it is" value={part} max={1} />
    </section>
  );
}
