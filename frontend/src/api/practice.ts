import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { RigChoice, TrackOut } from "./client";
import { commands } from "./commands";
import { options } from "./options";
import { settle } from "./settle";

/** Practice: its page, a session as it goes on, its readings as they come, its debrief. */

export const usePractice = () => useQuery(options.practice());
export const useClass = () => useQuery(options.practiceClass());
export const useExams = () => useQuery(options.exams());
export const useRun = (key: string) => useQuery(options.practiceRun(key));
export const useRunPlan = (key: string, rig: string) => useQuery(options.practicePlan(key, rig));
export const useRigs = (key: string, open: boolean) => useQuery({ ...options.practiceRigs(key), enabled: open });
export const useDebrief = (key: string) => useQuery(options.debrief(key));

/** Something done, or another pace. */
export function useDeed(key: string) {
  const client = useQueryClient();
  return useMutation({
    // As hands do them: one after the other.
    scope: { id: `practice ${key}` },
    mutationFn: (d: { kind: string; choice?: RigChoice } | { speed: number }) =>
      "speed" in d ? commands.pace(key, d.speed) : commands.deed(key, d.kind, d.choice),
    onSuccess: (out) => settle(client, options.practiceRun(key), out),
  });
}

const NONE: TrackOut = { at: [], pa: [], worst_pa: [], second_at: [], second_pa: [] };

/** The readings of a session, only what is new being asked for as its clock goes on. */
export function useTrack(key: string, time: number | undefined): TrackOut {
  const [track, setTrack] = useState(NONE);
  const busy = useRef(false);
  useEffect(() => {
    if (time === undefined || busy.current) return;
    const last = track.at[track.at.length - 1] ?? -1;
    if (last > time - 2) return;
    busy.current = true;
    commands
      .track(key, last)
      .then((more) =>
        setTrack((t) => ({
          at: [...t.at, ...more.at],
          pa: [...t.pa, ...more.pa],
          worst_pa: [...t.worst_pa, ...more.worst_pa],
          second_at: [...t.second_at, ...more.second_at],
          second_pa: [...t.second_pa, ...more.second_pa],
        })),
      )
      .catch(() => undefined)
      .finally(() => {
        busy.current = false;
      });
  }, [key, time, track]);
  return track;
}
