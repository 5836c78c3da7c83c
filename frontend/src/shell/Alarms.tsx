import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Bell, BellOff } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { Link, useLocation } from "react-router";

import type { RingOut } from "../api/client";
import { commands } from "../api/commands";
import { options, refresh } from "../api/options";
import { settle } from "../api/settle";
import { tellOf } from "../lib/notify";
import { sound } from "../lib/sound";
import { Button } from "../ui/Button";

/** The job whose run is being looked at: what its page shows is not rung for as well. */
const LOOKED_AT = /^\/jobs\/([^/]+)\/(draw|hold)$/;
/** A practice job under way: real alarms would be taken for its own. */
const PRACTISING = /^\/practice\/./;

/**
 * Alarms of any job in one slim bar, which has its place whether anything rings or not: nothing is covered by it, and
 * nothing moves from under a finger when it fills. Seen, heard, and silenced with one press; the rest behind the first.
 */
export function Alarms() {
  const client = useQueryClient();
  const { pathname } = useLocation();
  const here = LOOKED_AT.exec(pathname)?.[1];
  const [all, setAll] = useState(false);
  const found = useQuery(options.alarms()).data;
  const practising = PRACTISING.test(pathname);
  const on = useMemo(() => (found ?? []).filter((r) => !r.silenced && r.job !== here && !practising), [found, here, practising]);
  const loud = on.length > 0;
  useEffect(() => tellOf(on.map((r) => ({ key: `${r.job} ${r.key}`, words: r.words, title: r.title, path: `/jobs/${r.job}/draw` }))), [on]);
  useEffect(() => {
    if (!loud) return;
    void sound();
    const again = window.setInterval(sound, 2500);
    return () => window.clearInterval(again);
  }, [loud]);
  const silence = (r: RingOut) => {
    const old = client.getQueryData(options.alarms().queryKey) ?? [];
    settle(client, options.alarms(), old.map((x) => (x.job === r.job && x.key === r.key ? { ...x, silenced: true } : x)));
    void commands.silence(r.job, r.key).finally(() => refresh(client, ["alarms"]));
  };
  return (
    <section aria-label="Alarms" aria-live="assertive" className="relative z-20 mb-2 h-[52px]">
      {loud && (
        <ul className={`list-none rounded-[6px] border-2 border-ochre bg-sheet p-0 ${all ? "absolute inset-x-0 top-0" : ""}`}>
          {on.slice(0, all ? on.length : 1).map((r, i) => (
            <li key={`${r.job} ${r.key}`} className="flex h-12 items-center gap-2 pl-2">
              <Bell size={20} aria-hidden className="swings flex-none" />
              <Link to={`/jobs/${r.job}/draw`} className="min-w-0 flex-1 truncate">
                <b>{r.words}</b> {r.title}
              </Link>
              {i === 0 && on.length > 1 && (
                <Button kind="quiet" className="min-h-12! flex-none px-2!" aria-expanded={all} onClick={() => setAll((x) => !x)}>
                  {all ? "Less" : `${on.length - 1} more`}
                </Button>
              )}
              <Button kind="quiet" className="flex min-h-12! flex-none items-center gap-1 px-2!" onClick={() => silence(r)}>
                <BellOff size={18} aria-hidden /> Silence
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
