import { keepPreviousData, queryOptions, type QueryClient } from "@tanstack/react-query";

import type {
  BenchOut,
  BestOut,
  CarryOut,
  Catalogue,
  ChangesOut,
  ChargingOut,
  ChecksOut,
  ClearOut,
  ComingOut,
  CyclesOut,
  DayJob,
  DayOut,
  DebriefOut,
  DialOut,
  ExamOut,
  ForesightOut,
  HealthOut,
  HistoryOut,
  Job,
  JobOut,
  KitCard,
  LiveOut,
  OfferOut,
  OwnTemplate,
  PatternOut,
  PersonOut,
  PhotoOut,
  PlanOut,
  PossibleOut,
  LearnerOut,
  PracticeOut,
  ProposalOut,
  ProveOut,
  PumpOut,
  PurchasesOut,
  RigPlan,
  RigsOut,
  RingOut,
  RunningsOut,
  RunOut,
  SealOut,
  SeriesOut,
  SessionOut,
  SettingsOut,
  StageState,
  StepOut,
  SystemOut,
  TouchOut,
  VerdictOut,
  WhyOut,
  YardRow,
} from "./client";
import { ApiError, get, post } from "./client";

/**
 * Everything that can be asked of the server: its path, its key, how long an answer counts. Nothing else in the front
 * end knows a path or a key (a rule of the linter holds it to that); components take an option and `useQuery` it.
 */

/** Whether a server that has just been started still makes what the answer needs: it is asked again until it has. */
const isBuilding = (e: Error): boolean => e instanceof ApiError && e.status === 503;
const UNTIL_BUILT = 100;
export const again = (times: number, e: Error): boolean => times < (isBuilding(e) ? UNTIL_BUILT : 1);
export const againAfter = (_: number, e: Error): number => (isBuilding(e) ? 2000 : 1000);

/** What follows from the sheet is asked for again at each version; the last answer stays until the next is there. */
const ofVersion = { placeholderData: keepPreviousData, retry: (times: number, e: Error): boolean => isBuilding(e) && times < UNTIL_BUILT } as const;
const MINUTE = 60_000;
/** The news say what has changed; this is for what they might miss. */
const NOW_AND_THEN = MINUTE;

/** Where a run stands moves with its readings, which the news bring; by the clock alone when the next step falls due. */
export function untilNext(live: LiveOut | undefined): number {
  if (!live || live.phase === "before") return 30_000;
  const due = live.next.map((n) => n.due_at).filter((at): at is number => at != null && at > live.now);
  const ms = due.length > 0 ? (1000 * (Math.min(...due) - live.now)) / live.speed + 250 : Infinity;
  return Math.min(8000, Math.max(1500, ms));
}

export const options = {
  // The Yard and what stands beside the jobs
  yard: () => queryOptions({ queryKey: ["yard"], queryFn: () => get<YardRow[]>("/jobs"), refetchInterval: NOW_AND_THEN }),
  pumps: () => queryOptions({ queryKey: ["pumps"], queryFn: () => get<PumpOut[]>("/pumps"), refetchInterval: NOW_AND_THEN }),
  ahead: () => queryOptions({ queryKey: ["ahead"], queryFn: () => get<ComingOut[]>("/ahead"), refetchInterval: NOW_AND_THEN }),
  dial: (text: string, air: number) => queryOptions({ queryKey: ["dial", text, air], queryFn: () => post<DialOut>("/dial", { text, atmosphere_pa: air }), staleTime: Infinity, retry: false, placeholderData: keepPreviousData }),
  day: () => queryOptions({ queryKey: ["day"], queryFn: () => get<DayOut>("/day"), refetchInterval: NOW_AND_THEN }),
  alarms: () => queryOptions({ queryKey: ["alarms"], queryFn: () => get<RingOut[]>("/alarms"), refetchInterval: 15_000, refetchIntervalInBackground: true }),
  history: (q: string, customer: string, site: string) => {
    const asked = new URLSearchParams({ q, customer, site }).toString();
    return queryOptions({ queryKey: ["history", asked], queryFn: () => get<HistoryOut>(`/history?${asked}`), placeholderData: keepPreviousData });
  },
  kit: () => queryOptions({ queryKey: ["kit"], queryFn: () => get<KitCard[]>("/kit") }),
  purchases: () => queryOptions({ queryKey: ["purchases"], queryFn: () => get<PurchasesOut>("/purchases") }),
  templates: () => queryOptions({ queryKey: ["templates"], queryFn: () => get<OwnTemplate[]>("/templates") }),
  /** Asked again only while something is prepared. */
  health: () => queryOptions({ queryKey: ["health"], queryFn: () => get<HealthOut>("/health"), staleTime: Infinity, refetchInterval: (q) => (q.state.data?.preparing ? 2000 : false) }),
  catalogue: () => queryOptions({ queryKey: ["catalogue"], queryFn: () => get<Catalogue>("/catalogue"), staleTime: Infinity }),
  settings: () => queryOptions({ queryKey: ["settings"], queryFn: () => get<SettingsOut>("/settings"), staleTime: Infinity }),
  people: () => queryOptions({ queryKey: ["people"], queryFn: () => get<PersonOut[]>("/people") }),
  session: (take: (s: SessionOut) => SessionOut) => queryOptions({ queryKey: ["session"], queryFn: async () => take(await get<SessionOut>("/session")), staleTime: MINUTE, retry: 1 }),

  /** What a new job would begin with. The search of the van takes a moment. */
  proposal: (asked: Record<string, unknown>) => queryOptions({ queryKey: ["proposal", asked], queryFn: () => post<ProposalOut>("/proposal", asked), staleTime: MINUTE, retry: false }),

  // One sheet, and what follows from it
  job: (key: string) => queryOptions({ queryKey: ["job", key], queryFn: () => get<JobOut>(`/jobs/${key}`), staleTime: 5000 }),
  stages: (key: string) => queryOptions({ queryKey: ["stages", key], queryFn: () => get<StageState[]>(`/jobs/${key}/stages`), refetchInterval: NOW_AND_THEN }),
  system: (key: string, version: number) => queryOptions({ queryKey: ["system", key, version], queryFn: () => get<SystemOut>(`/jobs/${key}/system`), ...ofVersion }),
  /** A first answer by a few draws comes at once; while that is all there is, the whole is asked for. */
  plan: (key: string, version: number) =>
    queryOptions({
      queryKey: ["plan", key, version],
      queryFn: ({ client, queryKey }) => get<PlanOut>(`/jobs/${key}/plan${client.getQueryData(queryKey) ? "" : "?first=true"}`),
      refetchInterval: (q) => (q.state.data && !q.state.data.whole ? 1 : false),
      ...ofVersion,
      staleTime: MINUTE,
    }),
  changes: (key: string, version: number) => queryOptions({ queryKey: ["changes", key, version], queryFn: () => get<ChangesOut>(`/jobs/${key}/changes`), ...ofVersion, staleTime: MINUTE }),
  patterns: (key: string, version: number) => queryOptions({ queryKey: ["patterns", key, version], queryFn: () => get<PatternOut[]>(`/jobs/${key}/patterns`), placeholderData: keepPreviousData }),
  compare: (key: string, version: number) => queryOptions({ queryKey: ["compare", key, version], queryFn: () => get<RigPlan[]>(`/jobs/${key}/compare`), ...ofVersion }),
  carry: (key: string, version: number) => queryOptions({ queryKey: ["carry", key, version], queryFn: () => get<CarryOut>(`/jobs/${key}/carry`), placeholderData: keepPreviousData }),
  jobDay: (key: string, version: number, start: number | null) =>
    queryOptions({ queryKey: ["jobday", key, version, start], queryFn: () => get<DayJob>(`/jobs/${key}/day${start === null ? "" : `?start=${start}`}`), ...ofVersion }),
  prove: (key: string, version: number) => queryOptions({ queryKey: ["prove", key, version], queryFn: () => get<ProveOut>(`/jobs/${key}/prove`), placeholderData: keepPreviousData }),
  /** The rig on the bench. While it is attached it is asked for again and again. */
  bench: (key: string) => queryOptions({ queryKey: ["bench", key], queryFn: () => get<BenchOut>(`/jobs/${key}/bench`), refetchInterval: (q) => (q.state.data?.attached ? 900 : false) }),
  checks: (key: string, version: number) => queryOptions({ queryKey: ["checks", key, version], queryFn: () => get<ChecksOut>(`/jobs/${key}/checks`), placeholderData: keepPreviousData }),
  order: (key: string, goal: string, version: number, on: string) => queryOptions({ queryKey: ["order", key, goal, version, on], queryFn: () => get<StepOut[]>(`/jobs/${key}/orders/${goal}?on=${encodeURIComponent(on)}`), placeholderData: keepPreviousData }),
  breaks: (key: string, version: number) => queryOptions({ queryKey: ["breaks", key, version], queryFn: () => get<CyclesOut>(`/jobs/${key}/breaks`), ...ofVersion, staleTime: MINUTE }),
  best: (key: string) => queryOptions({ queryKey: ["best", key], queryFn: () => get<BestOut>(`/jobs/${key}/best`), staleTime: 0, gcTime: 0 }),

  // A run
  live: (key: string) => queryOptions({ queryKey: ["live", key], queryFn: () => get<LiveOut>(`/jobs/${key}/live`), refetchInterval: (q) => untilNext(q.state.data) }),
  touches: (key: string) => queryOptions({ queryKey: ["touches", key], queryFn: () => get<TouchOut[]>(`/jobs/${key}/touches`) }),
  photos: (key: string) => queryOptions({ queryKey: ["photos", key], queryFn: () => get<PhotoOut[]>(`/jobs/${key}/photos`), staleTime: MINUTE }),
  readings: (key: string) => queryOptions({ queryKey: ["readings", key], queryFn: () => get<SeriesOut[]>(`/jobs/${key}/readings`), staleTime: Infinity }),
  closer: (key: string, from: number, to: number) =>
    queryOptions({ queryKey: ["closer", key, from, to], queryFn: () => get<SeriesOut[]>(`/jobs/${key}/readings?since=${from}&until=${to}`), placeholderData: keepPreviousData, staleTime: MINUTE }),
  verdict: (key: string, live: boolean) => queryOptions({ queryKey: ["verdict", key], queryFn: () => get<VerdictOut | null>(`/jobs/${key}/verdict`), refetchInterval: live ? 4000 : false }),
  /** What a touch would do as the run stands. Asked anew each time: the state moves with every touch. */
  foresight: (key: string, kind: string) => queryOptions({ queryKey: ["foresight", key, kind], queryFn: () => get<ForesightOut>(`/jobs/${key}/foresee?kind=${encodeURIComponent(kind)}`), staleTime: 0, gcTime: 0 }),
  /** How many of these touches can be made in their order before one that is against a stop. */
  clear: (key: string, kinds: string[]) =>
    queryOptions({ queryKey: ["clear", key, kinds], queryFn: () => get<ClearOut>(`/jobs/${key}/foresee-all?${new URLSearchParams(kinds.map((k) => ["kind", k]))}`), staleTime: 0, gcTime: 0 }),
  /** Why the draw goes as it does. Weighing takes a second or two: it is asked for, not polled. */
  why: (key: string) => queryOptions({ queryKey: ["why", key], queryFn: () => get<WhyOut>(`/jobs/${key}/why`), staleTime: Infinity, gcTime: 0, retry: false }),
  /** What a hand could do to a part or a section as the run stands. */
  offers: (key: string, name: string) => queryOptions({ queryKey: ["offers", key, name], queryFn: () => get<OfferOut[]>(`/jobs/${key}/offers/${encodeURIComponent(name)}`), staleTime: 0, gcTime: 0 }),
  charging: (key: string, version: number) =>
    queryOptions({ queryKey: ["charging", key, version], queryFn: () => get<ChargingOut>(`/jobs/${key}/charging`), refetchInterval: (q) => (q.state.data?.scale ? 1000 : 15_000), placeholderData: keepPreviousData }),
  running: (key: string, version: number) => queryOptions({ queryKey: ["running", key, version], queryFn: () => get<RunningsOut>(`/jobs/${key}/running`), placeholderData: keepPreviousData }),
  seal: (key: string) => queryOptions({ queryKey: ["seal", key], queryFn: () => get<SealOut>(`/jobs/${key}/seal`) }),

  // Practice
  practice: () => queryOptions({ queryKey: ["practice"], queryFn: () => get<PracticeOut>("/practice") }),
  /** A session; while its clock runs it is asked for every second, which is what keeps the clock going. */
  practiceClass: () => queryOptions({ queryKey: ["practice", "class"], queryFn: () => get<LearnerOut[]>("/practice/class") }),
  exams: () => queryOptions({ queryKey: ["practice", "exams"], queryFn: () => get<ExamOut[]>("/practice/exams") }),
  practiceRun: (key: string) => queryOptions({ queryKey: ["practice-run", key], queryFn: () => get<RunOut>(`/practice/runs/${key}`), refetchInterval: (q) => (q.state.data?.speed ? 1000 : false), retry: false }),
  practicePlan: (key: string, rig: string) => queryOptions({ queryKey: ["practice-plan", key, rig], queryFn: () => get<PlanOut>(`/practice/runs/${key}/plan`), retry: false, staleTime: Infinity }),
  practiceRigs: (key: string) => queryOptions({ queryKey: ["practice-rigs", key], queryFn: () => get<RigsOut>(`/practice/runs/${key}/rigs`), staleTime: Infinity }),
  debrief: (key: string) => queryOptions({ queryKey: ["practice-debrief", key], queryFn: () => get<DebriefOut>(`/practice/runs/${key}/debrief`), staleTime: Infinity, retry: false }),
  /** A sheet to compose a scenario on: a job's, or a new one. */
  composeSheet: (from: string, fresh: Job | null) => queryOptions({ queryKey: ["compose-sheet", from], queryFn: async (): Promise<Job> => fresh ?? (await get<JobOut>(`/jobs/${from}`)).job }),
  rigsFor: (from: string, sheet: Job | undefined) => queryOptions({ enabled: !!sheet, queryKey: ["practice-rigs-for", from], queryFn: () => post<RigsOut>("/practice/rigs", sheet), staleTime: Infinity }),
  possible: (from: string, sheet: Job | undefined) => queryOptions({ enabled: !!sheet, queryKey: ["possible", from], queryFn: () => post<PossibleOut>("/practice/possible", sheet), retry: false }),

  // Bench notes: small answers, asked anew as what is typed changes
  note: <T>(path: string, body: unknown) => queryOptions({ queryKey: ["note", path, body], queryFn: () => post<T>(`/notes/${path}`, body), ...ofVersion, staleTime: Infinity }),
  notePage: <T>(path: string) => queryOptions({ queryKey: ["note-page", path], queryFn: () => get<T>(`/notes/${path}`), staleTime: Infinity }),
};

/** The first words of the keys: what is asked for again, kept on the device, or thrown away together. */
export type Family = "ahead" | "alarms" | "catalogue" | "checks" | "day" | "job" | "kit" | "live" | "people" | "photos" | "practice" | "pumps" | "purchases" | "readings" | "seal" | "session" | "settings" | "stages" | "templates" | "touches" | "verdict" | "yard";

/** Ask again for everything of these families, of one job where it is named. */
export function refresh(client: QueryClient, families: Family[], job?: string): void {
  for (const name of families) void client.invalidateQueries({ queryKey: job === undefined ? [name] : [name, job] });
}

/** Everything that a step of a run changes. */
export const refreshRun = (client: QueryClient, job: string): void => refresh(client, ["live", "touches", "stages", "verdict", "checks"], job);

/** Families whose last answer is kept on the device. */
export const KEPT = ["settings", "catalogue", "yard", "job", "stages", "system", "plan", "live", "touches", "readings", "verdict", "checks", "note-page"];
export const familyOf = (queryKey: readonly unknown[]): string => String(queryKey[0]);
/** What holds for every query of a family. */
export const keepFamily = (client: QueryClient, name: string, gcTime: number): void => client.setQueryDefaults([name], { gcTime });
