import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";

import { onSent, send, useOutbox, type Waiting } from "../lib/outbox";
import { toast } from "../lib/toasts";
import { Pace } from "../lib/pace";
import { onBack, onLost, useReach } from "../lib/reach";
import { readingsWith, touchesWith, withSent, withWaiting } from "../lib/waiting";

import type { SeriesOut } from "./client";
import { commands } from "./commands";
import { options, refresh, refreshRun } from "./options";
import { append } from "./series";
import { settle } from "./settle";

export const useYard = () => useQuery(options.yard());
export const useCatalogue = () => useQuery(options.catalogue());
export const useJob = (key: string) => useQuery(options.job(key));
export const useStages = (key: string) => useQuery(options.stages(key));
export const useSystem = (key: string, version: number) => useQuery(options.system(key, version));
export const usePlan = (key: string, version: number) => useQuery(options.plan(key, version));
export const usePatterns = (key: string, version: number) => useQuery(options.patterns(key, version));
export const useCarry = (key: string, version: number) => useQuery(options.carry(key, version));
export const useJobDay = (key: string, version: number, start: number | null) => useQuery(options.jobDay(key, version, start));
export const useDay = () => useQuery(options.day());
export const usePumps = () => useQuery(options.pumps());
export const useAhead = () => useQuery(options.ahead());
export const usePurchases = () => useQuery(options.purchases());
export const useOwnTemplates = () => useQuery(options.templates());
export const useProve = (key: string, version: number) => useQuery(options.prove(key, version));
export const useKit = () => useQuery(options.kit());
export const useBench = (key: string) => useQuery(options.bench(key));
export const useChecks = (key: string, version: number) => useQuery(options.checks(key, version));
export const useOrder = (key: string, goal: string, version: number, on = "") => useQuery(options.order(key, goal, version, on));
/** What can wait is asked for when the plan of the same version is there: the plan is what a person looks at. */
export const useChanges = (key: string, version: number, ready: boolean) => useQuery({ ...options.changes(key, version), enabled: ready });
export const useCompare = (key: string, version: number, ready: boolean) => useQuery({ ...options.compare(key, version), enabled: ready });

/** A touch of the bench, or the bench itself set up, sped up or taken down. */
export function useBenchTouch(key: string) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `bench ${key}` },
    mutationFn: (t: { kind: string } | { speed: number } | null) => (t === null ? commands.benchOff(key) : "kind" in t ? commands.benchTouch(key, t.kind) : commands.benchPace(key, t.speed)),
    onSuccess: (out) => settle(client, options.bench(key), out),
  });
}

/** Where a run stands; with what is on its way to the server, which the server does not know of yet. */
export function useLive(key: string) {
  const found = useQuery(options.live(key));
  const waiting = useOutbox(key);
  const offline = !useReach().ok;
  const data = useMemo(() => withWaiting(found.data, waiting, offline), [found.data, waiting, offline]);
  return { ...found, data };
}
export function useTouches(key: string) {
  const found = useQuery(options.touches(key));
  const waiting = useOutbox(key);
  const data = useMemo(() => found.data && touchesWith(found.data, waiting), [found.data, waiting]);
  return { ...found, data };
}
export const useVerdict = (key: string, live: boolean) => useQuery(options.verdict(key, live));
export function useReadings(key: string) {
  const found = useQuery(options.readings(key));
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
  const found = useQuery({ ...options.closer(key, from, to), enabled: want });
  return want && found.data ? found.data : series;
}

/** A touch to log, after the one that goes with it; with `said` it is told when both stand in the log, with the way back. */
interface Logged {
  kind: string;
  first?: string;
  note?: string;
  said?: string;
}

/** Log a touch; where it stands is asked for again. */
export function useTouch(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ kind, note, first }: Logged) => {
      if (first) await send(key, "touch", { kind: first });
      return send(key, "touch", { kind, note });
    },
    onSuccess: (_, { kind, first, said }) => {
      // The last is taken back first, as hands would.
      const back = () => Promise.all([kind, ...(first ? [first] : [])].map((k) => send(key, "touch", { kind: `undo:${k}` })));
      if (said) toast(`Logged: ${said}`, () => void back().finally(() => refreshRun(client, key)));
    },
    onSettled: () => refreshRun(client, key),
  });
}

/** Log a touch that is one of many: where it stands is asked for as they go, and not with each. Never rejects. */
export const useStep = (key: string) => (kind: string) => send(key, "touch", { kind }).catch(() => undefined);

export const useForesight = (key: string, kind: string) => useQuery(options.foresight(key, kind));
export const useWhy = (key: string, open: boolean) => useQuery({ ...options.why(key), enabled: open });

/** What a test turned out as; null sets the findings aside and looks again. */
export function useFound(key: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (a: { test: string; outcome: string } | null) => (a ? commands.answerTest(key, a) : commands.forgetAnswers(key)),
    onSuccess: (out) => {
      settle(client, options.why(key), out);
      refresh(client, ["touches"], key);
    },
  });
}

export const useOffers = (key: string, name: string) => useQuery(options.offers(key, name));

const MOST_LATELY = 20;
const SENT_MS = 500;

/** What is sent is asked for again; where the signal goes before the answer comes, it stands as it was sent. */
export function useSent(): void {
  const client = useQueryClient();
  const lately = useRef<{ item: Waiting; at: number }[]>([]);
  useEffect(() => {
    // What goes in one breath, forty steps or an hour of readings, is asked for a few times and not with each.
    const pace = new Pace();
    const off = onSent((item) => {
      lately.current = [...lately.current, { item, at: Date.now() }].slice(-MOST_LATELY);
      pace.wish(`run ${item.job}`, SENT_MS, () => refreshRun(client, item.job));
      if (item.what === "reading") pace.wish(`readings ${item.job}`, SENT_MS, () => refresh(client, ["readings"], item.job));
    });
    return () => {
      off();
      pace.stop();
    };
  }, [client]);
  useEffect(
    () =>
      onLost(() => {
        for (const { item, at } of lately.current) {
          // As old as it was: what else was sent since is still unheard of too.
          const [liveKey, touchesKey] = [options.live(item.job).queryKey, options.touches(item.job).queryKey];
          const live = client.getQueryState(liveKey)?.dataUpdatedAt ?? Infinity;
          const touches = client.getQueryState(touchesKey)?.dataUpdatedAt ?? Infinity;
          if (live < at) client.setQueryData(liveKey, (old) => withSent(old, item), { updatedAt: live });
          if (item.what === "touch" && touches < at) client.setQueryData(touchesKey, (old) => old && touchesWith(old, [item], ""), { updatedAt: touches });
          if (item.what === "reading") {
            const { gauge, part = null, pa } = item.body as { gauge: string; part?: string | null; pa: number | null };
            client.setQueryData(options.readings(item.job).queryKey, (old) => append(old, { gauge, part }, [item.at], [pa]));
          }
        }
        lately.current = [];
      }),
    [client],
  );
  // Back in reach: everything on screen is asked for again.
  useEffect(() => onBack(() => void client.invalidateQueries()), [client]);
}
