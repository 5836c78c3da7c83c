import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";

import { onSent, send, useOutbox, type Waiting } from "../lib/outbox";
import { onBack, onLost, useReach } from "../lib/reach";
import { readingsWith, touchesWith, withSent, withWaiting } from "../lib/waiting";

import type {
  ComingOut,
  BenchOut,
  CarryOut,
  Catalogue,
  ChangesOut,
  DayJob,
  DayOut,
  JobOut,
  ChecksOut,
  ForesightOut,
  OfferOut,
  KitCard,
  LiveOut,
  ProveOut,
  StepOut,
  OwnTemplate,
  PatternOut,
  PlanOut,
  PumpOut,
  PurchasesOut,
  RigPlan,
  SeriesOut,
  StageState,
  SystemOut,
  TouchOut,
  VerdictOut,
  WhyOut,
  YardRow,
} from "./client";
import { del, get, post } from "./client";

export const useYard = () => useQuery({ queryKey: ["yard"], queryFn: () => get<YardRow[]>("/jobs"), refetchInterval: 3000 });
export const useCatalogue = () =>
  useQuery({ queryKey: ["catalogue"], queryFn: () => get<Catalogue>("/catalogue"), staleTime: Infinity });
export const useJob = (key: string) =>
  useQuery({ queryKey: ["job", key], queryFn: () => get<JobOut>(`/jobs/${key}`), staleTime: 5000 });
export const useStages = (key: string) =>
  useQuery({ queryKey: ["stages", key], queryFn: () => get<StageState[]>(`/jobs/${key}/stages`), refetchInterval: 6000 });

/** What follows from the sheet is asked for again at each version; the last answer stays until the next is there. */
export const useSystem = (key: string, version: number) =>
  useQuery({
    queryKey: ["system", key, version],
    queryFn: () => get<SystemOut>(`/jobs/${key}/system`),
    placeholderData: keepPreviousData,
    retry: false,
  });
export const usePlan = (key: string, version: number) =>
  useQuery({
    queryKey: ["plan", key, version],
    queryFn: () => get<PlanOut>(`/jobs/${key}/plan`),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 60_000,
  });
/** What can wait is asked for when the plan of the same version is there: the plan is what a person looks at. */
export const useChanges = (key: string, version: number, ready: boolean) =>
  useQuery({
    enabled: ready,
    queryKey: ["changes", key, version],
    queryFn: () => get<ChangesOut>(`/jobs/${key}/changes`),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 60_000,
  });
export const usePatterns = (key: string, version: number) =>
  useQuery({ queryKey: ["patterns", key, version], queryFn: () => get<PatternOut[]>(`/jobs/${key}/patterns`), placeholderData: keepPreviousData });
export const useCompare = (key: string, version: number, ready: boolean) =>
  useQuery({
    enabled: ready,
    queryKey: ["compare", key, version],
    queryFn: () => get<RigPlan[]>(`/jobs/${key}/compare`),
    placeholderData: keepPreviousData,
    retry: false,
  });
export const useCarry = (key: string, version: number) =>
  useQuery({ queryKey: ["carry", key, version], queryFn: () => get<CarryOut>(`/jobs/${key}/carry`), placeholderData: keepPreviousData });
export const useJobDay = (key: string, version: number, start: number | null) =>
  useQuery({
    queryKey: ["jobday", key, version, start],
    queryFn: () => get<DayJob>(`/jobs/${key}/day${start === null ? "" : `?start=${start}`}`),
    placeholderData: keepPreviousData,
    retry: false,
  });
export const useDay = () => useQuery({ queryKey: ["day"], queryFn: () => get<DayOut>("/day"), refetchInterval: 30_000 });
export const usePumps = () => useQuery({ queryKey: ["pumps"], queryFn: () => get<PumpOut[]>("/pumps"), refetchInterval: 6000 });
export const useAhead = () => useQuery({ queryKey: ["ahead"], queryFn: () => get<ComingOut[]>("/ahead"), refetchInterval: 10_000 });
export const usePurchases = () => useQuery({ queryKey: ["purchases"], queryFn: () => get<PurchasesOut>("/purchases") });
export const useOwnTemplates = () => useQuery({ queryKey: ["templates"], queryFn: () => get<OwnTemplate[]>("/templates") });

export const useProve = (key: string, version: number) =>
  useQuery({ queryKey: ["prove", key, version], queryFn: () => get<ProveOut>(`/jobs/${key}/prove`), placeholderData: keepPreviousData });
export const useKit = () => useQuery({ queryKey: ["kit"], queryFn: () => get<KitCard[]>("/kit") });

/** The rig on the bench. While it is attached it is asked for again and again. */
export const useBench = (key: string) =>
  useQuery({ queryKey: ["bench", key], queryFn: () => get<BenchOut>(`/jobs/${key}/bench`), refetchInterval: (q) => (q.state.data?.attached ? 900 : false) });

/** A touch of the bench, or the bench itself set up, sped up or taken down. */
export function useBenchTouch(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (t: { kind: string } | { speed: number } | null) =>
      t === null ? del<BenchOut>(`/jobs/${key}/bench`) : "kind" in t ? post<BenchOut>(`/jobs/${key}/bench/touches`, t) : post<BenchOut>(`/jobs/${key}/bench`, t),
    onSuccess: (out) => client.setQueryData(["bench", key], out),
  });
}

export const useChecks = (key: string, version: number) =>
  useQuery({
    queryKey: ["checks", key, version],
    queryFn: () => get<ChecksOut>(`/jobs/${key}/checks`),
    placeholderData: keepPreviousData,
  });

export const useOrder = (key: string, goal: string, version: number) =>
  useQuery({ queryKey: ["order", key, goal, version], queryFn: () => get<StepOut[]>(`/jobs/${key}/orders/${goal}`), placeholderData: keepPreviousData });

/** Where a run stands; with what is on its way to the server, which the server does not know of yet. */
export function useLive(key: string) {
  const found = useQuery({ queryKey: ["live", key], queryFn: () => get<LiveOut>(`/jobs/${key}/live`), refetchInterval: 1500 });
  const waiting = useOutbox(key);
  const offline = !useReach().ok;
  const data = useMemo(() => withWaiting(found.data, waiting, offline), [found.data, waiting, offline]);
  return { ...found, data };
}
export function useTouches(key: string) {
  const found = useQuery({ queryKey: ["touches", key], queryFn: () => get<TouchOut[]>(`/jobs/${key}/touches`) });
  const waiting = useOutbox(key);
  const data = useMemo(() => found.data && touchesWith(found.data, waiting), [found.data, waiting]);
  return { ...found, data };
}
export const useVerdict = (key: string, live: boolean) =>
  useQuery({
    queryKey: ["verdict", key],
    queryFn: () => get<VerdictOut | null>(`/jobs/${key}/verdict`),
    refetchInterval: live ? 4000 : false,
  });
export function useReadings(key: string) {
  const found = useQuery({ queryKey: ["readings", key], queryFn: () => get<SeriesOut[]>(`/jobs/${key}/readings`), staleTime: Infinity });
  const waiting = useOutbox(key);
  const data = useMemo(() => found.data && readingsWith(found.data, waiting), [found.data, waiting]);
  return { ...found, data };
}

/** A long draw comes thinned: what is looked at closely is asked for by itself, a little to both sides. */
export function useCloser(key: string, series: SeriesOut[], view: { from: number; to: number } | null): SeriesOut[] {
  const thinned = series.some((s) => s.thinned);
  const span = view ? view.to - view.from : 0;
  const want = thinned && view !== null && span < 3 * 3600;
  // Whole spans, so that a pan asks anew only when it leaves what it has.
  const step = Math.max(600, 2 ** Math.ceil(Math.log2(Math.max(1, span))));
  const from = want ? Math.floor((view.from - step / 2) / step) * step : 0;
  const to = want ? Math.ceil((view.to + step / 2) / step) * step : 0;
  const found = useQuery({
    queryKey: ["closer", key, from, to],
    queryFn: () => get<SeriesOut[]>(`/jobs/${key}/readings?since=${from}&until=${to}`),
    enabled: want,
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });
  return want && found.data ? found.data : series;
}

/** Log a touch; where it stands is asked for again. */
export function useTouch(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (t: { kind: string; note?: string }) => send(key, "touch", t),
    onSettled: () => refreshRun(client, key),
  });
}

/** What a touch would do as the run stands. Asked anew each time: the state moves with every touch. */
export function useForesight(key: string, kind: string) {
  return useQuery({
    queryKey: ["foresight", key, kind],
    queryFn: () => get<ForesightOut>(`/jobs/${key}/foresee?kind=${encodeURIComponent(kind)}`),
    staleTime: 0,
    gcTime: 0,
  });
}

/** Why the draw goes as it does. Weighing takes a second or two: it is asked for, not polled. */
export const useWhy = (key: string, open: boolean) =>
  useQuery({ queryKey: ["why", key], queryFn: () => get<WhyOut>(`/jobs/${key}/why`), enabled: open, staleTime: Infinity, gcTime: 0, retry: false });

/** What a test turned out as; null sets the findings aside and looks again. */
export function useFound(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (a: { test: string; outcome: string } | null) => (a ? post<WhyOut>(`/jobs/${key}/why/answers`, a) : del<WhyOut>(`/jobs/${key}/why/answers`)),
    onSuccess: (out) => {
      client.setQueryData(["why", key], out);
      void client.invalidateQueries({ queryKey: ["touches", key] });
    },
  });
}

/** What a hand could do to a part or a section as the run stands. */
export function useOffers(key: string, name: string) {
  return useQuery({ queryKey: ["offers", key, name], queryFn: () => get<OfferOut[]>(`/jobs/${key}/offers/${encodeURIComponent(name)}`), staleTime: 0, gcTime: 0 });
}

const MOST_LATELY = 20;

export function refreshRun(client: ReturnType<typeof useQueryClient>, key: string): void {
  for (const name of ["live", "touches", "stages", "verdict"]) void client.invalidateQueries({ queryKey: [name, key] });
}

interface StreamMessage {
  kind: "hello" | "readings" | "touch" | "reload";
  gauge?: string;
  at?: number[];
  pa?: (number | null)[];
}

/** What is sent is asked for again; where the signal goes before the answer comes, it stands as it was sent. */
export function useSent(): void {
  const client = useQueryClient();
  const lately = useRef<{ item: Waiting; at: number }[]>([]);
  useEffect(
    () =>
      onSent((item) => {
        lately.current = [...lately.current, { item, at: Date.now() }].slice(-MOST_LATELY);
        refreshRun(client, item.job);
        if (item.what === "reading") void client.invalidateQueries({ queryKey: ["readings", item.job] });
      }),
    [client],
  );
  useEffect(
    () =>
      onLost(() => {
        for (const { item, at } of lately.current) {
          // As old as it was: what else was sent since is still unheard of too.
          const since = (name: string) => client.getQueryState([name, item.job])?.dataUpdatedAt ?? Infinity;
          const [live, touches] = [since("live"), since("touches")];
          if (live < at) client.setQueryData<LiveOut>(["live", item.job], (old) => withSent(old, item), { updatedAt: live });
          if (item.what === "touch" && touches < at) client.setQueryData<TouchOut[]>(["touches", item.job], (old) => old && touchesWith(old, [item], ""), { updatedAt: touches });
          if (item.what === "reading") {
            const { gauge, pa } = item.body as { gauge: string; pa: number | null };
            client.setQueryData<SeriesOut[]>(["readings", item.job], (old) => append(old, gauge, [item.at], [pa]));
          }
        }
        lately.current = [];
      }),
    [client],
  );
  // Back in reach: everything on screen is asked for again.
  useEffect(() => onBack(() => void client.invalidateQueries()), [client]);
}

/** Keep the readings of a job up to date from the server's stream. */
export function useStream(key: string): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/jobs/${key}/stream`);
    let opened = false;
    source.onmessage = (event: MessageEvent<string>) => {
      const message = JSON.parse(event.data) as StreamMessage;
      if (message.kind === "readings" && message.at && message.pa) {
        const { at, pa, gauge = "" } = message;
        client.setQueryData<SeriesOut[]>(["readings", key], (old) => append(old, gauge, at, pa));
      } else if (message.kind === "touch") refreshRun(client, key);
      else if (message.kind === "reload" || opened) void client.invalidateQueries({ queryKey: ["readings", key] });
      opened = true;
    };
    return () => source.close();
  }, [client, key]);
}

function append(old: SeriesOut[] | undefined, gauge: string, at: number[], pa: (number | null)[]): SeriesOut[] | undefined {
  if (!old) return old;
  const found = old.find((s) => s.gauge === gauge);
  const base = found ?? { gauge, at: [], pa: [], total: 0, thinned: false };
  const last = base.at[base.at.length - 1] ?? -Infinity;
  const fresh = at.map((t, i) => [t, pa[i] ?? null] as const).filter(([t]) => t > last);
  if (fresh.length === 0) return old;
  const next: SeriesOut = {
    ...base,
    at: [...base.at, ...fresh.map(([t]) => t)],
    pa: [...base.pa, ...fresh.map(([, p]) => p)],
    total: base.total + fresh.length,
  };
  return found ? old.map((s) => (s === found ? next : s)) : [...old, next];
}
