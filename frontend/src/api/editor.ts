import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import type { Job, JobOut } from "./client";
import { ApiError, post, put } from "./client";
import { useReach } from "../lib/reach";
import { useJob } from "./queries";

export interface Editor {
  job: Job | undefined;
  version: number;
  canUndo: boolean;
  /** What stands in the way of saving, until the next edit mends it. */
  fault: ApiError | null;
  edit: (change: (job: Job) => Job, at?: "once" | "typing") => void;
  undo: () => void;
  /** An edit that the server makes (a part exchanged, a fix taken): asked for at the sheet's version as it stands. */
  ask: (path: string, body: (version: number) => unknown) => Promise<boolean>;
}

/** One sheet under edit: shown at once, saved shortly after, the last good state kept when the server refuses. */
export function useEditor(key: string): Editor {
  const client = useQueryClient();
  const found = useJob(key);
  const offline = !useReach().ok;
  // What an earlier page left on the device is edited only without signal: somebody may have changed it since.
  const data = found.dataUpdatedAt >= performance.timeOrigin || offline ? found.data : undefined;
  const [draft, setDraft] = useState<Job | null>(null);
  const [fault, setFault] = useState<ApiError | null>(null);
  const latest = useRef<Job | null>(null);
  const timer = useRef<number>(undefined);
  const line = useRef<Promise<unknown>>(Promise.resolve());

  const accept = useCallback(
    (stored: JobOut) => {
      client.setQueryData(["job", key], stored);
      for (const name of ["stages", "live", "verdict"]) void client.invalidateQueries({ queryKey: [name, key] });
    },
    [client, key],
  );

  /** Saves and edits by the server go one after the other: each sees the version that the one before it made. */
  const inLine = useCallback(<T,>(work: () => Promise<T>): Promise<T> => {
    const done = line.current.then(work, work);
    line.current = done.catch(() => undefined);
    return done;
  }, []);

  const flush = useCallback(
    (): Promise<void> =>
      inLine(async () => {
        while (latest.current !== null) {
          const sent: Job = latest.current;
          const version = client.getQueryData<JobOut>(["job", key])?.version;
          if (version === undefined) break;
          try {
            accept(await put<JobOut>(`/jobs/${key}`, { version, job: sent }));
            setFault(null);
            setDraft((d) => (d === sent ? null : d));
          } catch (e) {
            if (e instanceof ApiError) setFault(e);
            if (e instanceof ApiError && e.status === 409) {
              // Someone else's sheet is the true one now; the edit is to be made again on top of it.
              setDraft((d) => (d === sent ? null : d));
              await client.invalidateQueries({ queryKey: ["job", key] });
            }
          }
          // An edit made meanwhile goes next. What was refused stays in view, with the reason above it.
          if (latest.current === sent) latest.current = null;
        }
      }),
    [accept, client, inLine, key],
  );

  useEffect(() => {
    const leave = () => {
      window.clearTimeout(timer.current);
      void flush();
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [flush]);

  const edit = useCallback<Editor["edit"]>(
    (change, at = "once") => {
      const base = latest.current ?? draft ?? client.getQueryData<JobOut>(["job", key])?.job;
      if (!base) return;
      const next = change(base);
      latest.current = next;
      setDraft(next);
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void flush(), at === "typing" ? 350 : 10);
    },
    [client, draft, flush, key],
  );

  const undo = useCallback(() => {
    latest.current = null;
    setDraft(null);
    setFault(null);
    post<JobOut>(`/jobs/${key}/undo`).then(accept, (e: unknown) => e instanceof ApiError && setFault(e));
  }, [accept, key]);

  const ask = useCallback<Editor["ask"]>(
    (path, body) => {
      window.clearTimeout(timer.current);
      void flush();
      return inLine(async () => {
        const version = client.getQueryData<JobOut>(["job", key])?.version ?? 0;
        try {
          accept(await post<JobOut>(path, body(version)));
          if (latest.current === null) setDraft(null);
          setFault(null);
          return true;
        } catch (e) {
          if (e instanceof ApiError) setFault(e);
          if (e instanceof ApiError && e.status === 409) await client.invalidateQueries({ queryKey: ["job", key] });
          return false;
        }
      });
    },
    [accept, client, flush, inLine, key],
  );

  return {
    ask,
    job: draft ?? data?.job,
    version: data?.version ?? 0,
    canUndo: data?.can_undo ?? false,
    fault,
    edit,
    undo,
  };
}
