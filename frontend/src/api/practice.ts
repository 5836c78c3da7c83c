import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { DebriefOut, PlanOut, PracticeOut, RigChoice, RigsOut, RunOut, TrackOut } from "./client";
import { get, post } from "./client";

/** Practice: its page, a session as it goes on, its readings as they come, its debrief. */

export const usePractice = () => useQuery({ queryKey: ["practice"], queryFn: () => get<PracticeOut>("/practice") });

/** A session; while its clock runs it is asked for every second, which is what keeps the clock going. */
export const useRun = (key: string) =>
  useQuery({
    queryKey: ["practice-run", key],
    queryFn: () => get<RunOut>(`/practice/runs/${key}`),
    refetchInterval: (q) => (q.state.data?.speed ? 1000 : false),
    retry: false,
  });

export const useRunPlan = (key: string, rig: string) =>
  useQuery({ queryKey: ["practice-plan", key, rig], queryFn: () => get<PlanOut>(`/practice/runs/${key}/plan`), retry: false, staleTime: Infinity });

export const useRigs = (key: string, open: boolean) =>
  useQuery({ enabled: open, queryKey: ["practice-rigs", key], queryFn: () => get<RigsOut>(`/practice/runs/${key}/rigs`), staleTime: Infinity });

export const useDebrief = (key: string) =>
  useQuery({ queryKey: ["practice-debrief", key], queryFn: () => get<DebriefOut>(`/practice/runs/${key}/debrief`), staleTime: Infinity, retry: false });

/** Something done, or another pace. */
export function useDeed(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (d: { kind: string; choice?: RigChoice } | { speed: number }) =>
      "speed" in d ? post<RunOut>(`/practice/runs/${key}/pace`, d) : post<RunOut>(`/practice/runs/${key}/deeds`, d),
    onSuccess: (out) => client.setQueryData(["practice-run", key], out),
  });
}

const NONE: TrackOut = { at: [], pa: [], second_at: [], second_pa: [] };

/** The readings of a session, only what is new being asked for as its clock goes on. */
export function useTrack(key: string, time: number | undefined): TrackOut {
  const [track, setTrack] = useState(NONE);
  const busy = useRef(false);
  useEffect(() => {
    if (time === undefined || busy.current) return;
    const last = track.at[track.at.length - 1] ?? -1;
    if (last > time - 2) return;
    busy.current = true;
    get<TrackOut>(`/practice/runs/${key}/readings?since=${last}`)
      .then((more) =>
        setTrack((t) => ({
          at: [...t.at, ...more.at],
          pa: [...t.pa, ...more.pa],
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
