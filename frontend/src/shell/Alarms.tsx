import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Bell, BellOff } from "lucide-react";
import { useEffect } from "react";
import { Link } from "react-router";

import type { RingOut } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { sound } from "../lib/sound";
import { useNarrow } from "../lib/narrow";
import { Button } from "../ui/Button";

/** Alarms of any job, over whatever is open: seen, heard, and silenced with one press. */
export function Alarms() {
  const client = useQueryClient();
  const most = useNarrow() ? 1 : 4;
  const on = (useQuery(options.alarms()).data ?? []).filter((r) => !r.silenced);
  const loud = on.length > 0;
  useEffect(() => {
    if (!loud) return;
    void sound();
    const again = window.setInterval(sound, 2500);
    return () => window.clearInterval(again);
  }, [loud]);
  const silence = (r: RingOut) => {
    client.setQueryData(options.alarms().queryKey, (old) => old?.map((x) => (x.job === r.job && x.key === r.key ? { ...x, silenced: true } : x)));
    void commands.silence(r.job, r.key).finally(() => refresh(client, ["alarms"]));
  };
  if (!loud) return null;
  return (
    <section aria-label="Alarms" aria-live="assertive" className="sticky top-0 z-20 mb-2">
    <ul className="grid list-none gap-1.5 p-0 lg:grid-cols-2">
      {on.slice(0, most).map((r) => (
        <li key={`${r.job} ${r.key}`} className="flex items-center gap-3 rounded-[6px] border-[3px] border-ochre bg-sheet py-0.5 pr-1 pl-3">
          <Bell size={22} aria-hidden className="swings flex-none" />
          <Link to={`/jobs/${r.job}/draw`} className="min-w-0 flex-1">
            <b>{r.title}</b> {r.words}
          </Link>
          <Button kind="quiet" className="flex flex-none items-center gap-2 px-2" onClick={() => silence(r)}>
            <BellOff size={18} aria-hidden /> Silence
          </Button>
        </li>
      ))}
      {on.length > most && <li className="rounded-[6px] bg-sheet px-3 text-soft">and {on.length - most} more</li>}
    </ul>
    </section>
  );
}
