import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { type Line, openLine } from "../lib/newsLine";
import { Pace } from "../lib/pace";
import { doubted } from "../lib/reach";

import { get, type YardRow } from "./client";
import { hrefs } from "./commands";
import { type Family, options, refresh, refreshRun } from "./options";
import { PAGE } from "./page";
import { append } from "./series";

/** What the server says has changed, and what is asked for again because of it: only that, and not too often. */

interface Readings {
  kind: "readings";
  job: string;
  gauge?: string;
  part?: string | null;
  at?: number[];
  pa?: (number | null)[];
  simulated?: boolean;
}
export type Message =
  | { kind: "hello" | "reload" }
  | { kind: "changed"; jobs: { job: string; by: string }[]; groups: { group: string; by: string }[] }
  | { kind: "read"; jobs: string[] }
  | { kind: "touch" | "weight"; job: string }
  | Readings;

/** A simulated gauge at sixty times its pace reads ten times a second: more than an eye follows, or a phone should draw. */
const TRACE_MS = 250;
const LIVE_MS = 1500;
const STAGES_MS = 6000;
const YARD_MS = 3000;
const LISTS_MS = 2000;
/** What a change to a group of things makes old. */
const GROUPS: Record<string, Family[]> = {
  alarms: ["alarms"],
  kit: ["kit", "pumps", "purchases"],
  settings: ["settings"],
  people: ["people"],
  templates: ["templates"],
  practice: ["practice"],
};
/** Groups that hold jobs: new ones, or all of them. */
const JOBS = ["jobs", "job-files", "day", "restore"];

/** The rows of some jobs put in place of what stood there; a job that is gone goes. In the order the server gives. */
export function withRows(old: YardRow[], asked: string[], rows: YardRow[]): YardRow[] {
  return [...old.filter((r) => !asked.includes(r.key)), ...rows].sort((a, b) => a.rank - b.rank || b.updated_at - a.updated_at);
}

export class Newsroom {
  private readonly pace = new Pace();
  private readonly dirty = new Set<string>();
  private readonly watched = new Map<string, number>();
  private readonly come = new Map<string, Readings[]>();
  private line: Line | null = null;

  constructor(private readonly client: QueryClient) {}

  open(): () => void {
    this.line = openLine<Message>(hrefs.news, PAGE, this.hear, doubted);
    this.line.watch([...this.watched.keys()]);
    return () => {
      this.line?.close();
      this.line = null;
      this.pace.stop();
    };
  }

  /** A page of a job is open: its readings come as they are stored. */
  watch(job: string): () => void {
    const count = (by: number) => {
      const now = (this.watched.get(job) ?? 0) + by;
      if (now > 0) this.watched.set(job, now);
      else this.watched.delete(job);
      this.line?.watch([...this.watched.keys()]);
    };
    count(1);
    return () => count(-1);
  }

  readonly hear = (m: Message, fell = false): void => {
    if (m.kind === "hello" || m.kind === "reload") {
      if (fell) void this.client.invalidateQueries();
      // What was stored before the stream was open came by none.
      else for (const job of this.watched.keys()) refresh(this.client, ["readings"], job);
    } else if (m.kind === "readings") this.readings(m);
    else if (m.kind === "touch") refreshRun(this.client, m.job);
    else if (m.kind === "read") this.rows(m.jobs, YARD_MS);
    else if (m.kind === "changed") this.changed(m.jobs, m.groups);
  };

  private readings(m: Readings): void {
    const { job } = m;
    if (!this.watched.has(job)) return;
    this.come.set(job, [...(this.come.get(job) ?? []), m]);
    this.pace.wish(`trace ${job}`, TRACE_MS, () => this.drawn(job));
    this.pace.wish(`live ${job}`, LIVE_MS, () => refresh(this.client, ["live"], job));
    this.pace.wish(`stages ${job}`, STAGES_MS, () => refresh(this.client, ["stages"], job));
  }

  /** All that has come of a job since, put on its trace together. */
  private drawn(job: string): void {
    const come = this.come.get(job) ?? [];
    const { queryKey } = options.readings(job);
    // All that is being asked for may have been read before these were stored: they are put on once more when it is there.
    if (this.client.isFetching({ queryKey, exact: true }) > 0) this.pace.wish(`trace ${job}`, TRACE_MS, () => this.drawn(job));
    else this.come.delete(job);
    this.client.setQueryData(queryKey, (old) =>
      come.reduce((series, { gauge = "", part = null, at = [], pa = [], simulated }) => append(series, { gauge, part }, at, pa, simulated), old),
    );
  }

  private changed(jobs: { job: string; by: string }[], groups: { group: string; by: string }[]): void {
    for (const { job, by } of jobs) {
      // What this page did itself it has asked for again itself.
      if (by === PAGE) continue;
      refreshRun(this.client, job);
      refresh(this.client, ["job", "photos", "seal"], job);
    }
    if (jobs.length > 0) {
      this.rows(
        jobs.map((j) => j.job),
        0,
      );
      this.lists();
    }
    for (const { group, by } of groups) {
      if (by !== PAGE) refresh(this.client, GROUPS[group] ?? []);
      if (JOBS.includes(group)) {
        refresh(this.client, ["yard"]);
        this.lists();
      }
    }
  }

  private lists(): void {
    this.pace.wish("lists", LISTS_MS, () => refresh(this.client, ["pumps", "ahead", "day"]));
  }

  private rows(jobs: string[], every: number): void {
    const query = this.client.getQueryCache().find({ queryKey: options.yard().queryKey });
    if (!query?.isActive()) return;
    jobs.forEach((j) => this.dirty.add(j));
    this.pace.wish("yard", every, () => void this.ask());
  }

  private async ask(): Promise<void> {
    const asked = [...this.dirty];
    this.dirty.clear();
    const { queryKey } = options.yard();
    try {
      const rows = await get<YardRow[]>(`/jobs?only=${asked.join(",")}`);
      this.client.setQueryData(queryKey, (old) => old && withRows(old, asked, rows));
    } catch {
      // Asked for as a whole when its time comes.
    }
  }
}

const rooms = new WeakMap<QueryClient, Newsroom>();

function roomOf(client: QueryClient): Newsroom {
  const found = rooms.get(client) ?? new Newsroom(client);
  rooms.set(client, found);
  return found;
}

/** Hear what changes, as long as the shell is there. */
export function useNews(): void {
  const client = useQueryClient();
  useEffect(() => roomOf(client).open(), [client]);
}

/** Keep the readings of a job up to date as they are stored. */
export function useWatched(job: string): void {
  const client = useQueryClient();
  useEffect(() => roomOf(client).watch(job), [client, job]);
}

