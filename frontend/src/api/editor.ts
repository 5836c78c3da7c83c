import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import type { Job, JobOut } from "./client";
import { ApiError } from "./client";
import { commands } from "./commands";
import { options, refresh } from "./options";
import { draftOf, dropDraft, editing, keepDraft } from "../lib/drafts";
import { hasRoom, NO_ROOM } from "../lib/kept";
import { onBack, useReach, waitsAfter } from "../lib/reach";
import { useJob } from "./queries";
import { settle } from "./settle";

export interface Editor {
  job: Job | undefined;
  version: number;
  canUndo: boolean;
  /** What stands in the way of saving, until the next edit mends it. */
  fault: ApiError | null;
  edit: (change: (job: Job) => Job, at?: "once" | "typing") => void;
  undo: () => void;
  /** An edit that the server makes (a part exchanged, a fix taken): asked for at the sheet's version as it stands. */
  ask: (what: "rig" | "apply" | "template", body: Record<string, unknown>) => Promise<boolean>;
}

const notTaken = (detail: string) => new ApiError(409, { type: "about:blank", title: "An earlier edit here was not taken", status: 409, detail, faults: [] });

const notYet = () =>
  new ApiError(0, {
    type: "about:blank",
    title: "Not saved yet",
    status: 0,
    detail: `The server cannot be reached. ${hasRoom() ? "The edit is kept on this device, and is saved when the server answers." : NO_ROOM}`,
    faults: [],
  });

/** What is said of a save that failed; `earlier`: of what an earlier page left. */
const toldOf = (e: ApiError, earlier: boolean): ApiError => {
  if (e.status === 0) return notYet();
  return e.status === 409 && earlier ? notTaken(e.problem.detail) : e;
};

/** One sheet under edit: shown at once, saved shortly after, the last good state kept when the server refuses. */
export function useEditor(key: string): Editor {
  const client = useQueryClient();
  const found = useJob(key);
  const offline = !useReach().ok;
  // What an earlier page left on the device is edited only without signal: somebody may have changed it since.
  const data = found.dataUpdatedAt >= performance.timeOrigin || offline ? found.data : undefined;
  // An earlier page's edit, which the server does not have, goes on here.
  const [left] = useState(() => draftOf(key));
  const goesOn = left && !left.refused ? left : null;
  const [draft, setDraft] = useState<Job | null>(goesOn?.job ?? null);
  const [fault, setFault] = useState<ApiError | null>(left?.refused ? notTaken(left.refused) : null);
  const latest = useRef<Job | null>(goesOn?.job ?? null);
  /** The version that the edits under way were made on top of. */
  const base = useRef<number | null>(goesOn?.version ?? null);
  /** What is under way began in an earlier page. */
  const earlier = useRef(goesOn !== null);
  /** Settles when the last edit is on the device. */
  const kept = useRef<Promise<void>>(Promise.resolve());
  const sending = useRef(false);
  /** Edits made while the server makes one: they go on top of its answer. */
  const asking = useRef(0);
  const after = useRef<((job: Job) => Job)[]>([]);
  const timer = useRef<number>(undefined);
  const line = useRef<Promise<unknown>>(Promise.resolve());

  const accept = useCallback(
    (stored: JobOut) => {
      settle(client, options.job(key), stored);
      if (base.current !== null) base.current = stored.version;
      refresh(client, ["stages", "live", "verdict"], key);
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
        while (latest.current !== null && base.current !== null) {
          const sent: Job = latest.current;
          sending.current = true;
          try {
            accept(await commands.saveJob(key, base.current, sent));
            setFault(null);
            earlier.current = false;
            setDraft((d) => (d === sent ? null : d));
            if (latest.current === sent) dropDraft(key);
          } catch (e) {
            if (e instanceof ApiError) {
              // Said to be kept it has to be there, though the page went now.
              if (e.status === 0) await kept.current;
              setFault(toldOf(e, earlier.current));
            }
            if (e instanceof ApiError && e.status === 409) {
              earlier.current = false;
              // Someone else's sheet is the true one now; the edit is to be made again on top of it.
              latest.current = null;
              setDraft(null);
              dropDraft(key);
              await client.invalidateQueries({ queryKey: options.job(key).queryKey });
            }
            // Without signal it waits, here and on the device, for the server to be back.
            if (e instanceof ApiError && waitsAfter(e.status)) return;
            if (latest.current === sent) {
              // What was refused stays in view, with the reason above it, until the next edit mends it.
              latest.current = null;
              dropDraft(key);
            }
          } finally {
            sending.current = false;
          }
          // An edit made meanwhile goes next.
          if (latest.current === sent) latest.current = null;
          if (latest.current === null) base.current = null;
        }
      }),
    [accept, client, inLine, key],
  );

  useEffect(() => {
    if (draftOf(key)?.refused) dropDraft(key);
    if (latest.current !== null) void flush();
    const done = editing(key);
    const stop = onBack(() => void flush());
    const leave = () => {
      window.clearTimeout(timer.current);
      void flush();
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      stop();
      leave();
      done();
    };
  }, [flush, key]);

  const edit = useCallback<Editor["edit"]>(
    (change, at = "once") => {
      const stored = client.getQueryData(options.job(key).queryKey);
      const under = latest.current ?? draft ?? stored?.job;
      if (!under) return;
      const next = change(under);
      setDraft(next);
      if (asking.current > 0) {
        after.current.push(change);
        return;
      }
      base.current ??= stored?.version ?? null;
      latest.current = next;
      if (base.current !== null) kept.current = keepDraft(key, { version: base.current, job: next, behind: sending.current });
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void flush(), at === "typing" ? 350 : 10);
    },
    [client, draft, flush, key],
  );

  /** What the server would not take is said; where somebody else was first, theirs is the true sheet. */
  const refused = useCallback(
    async (e: unknown): Promise<void> => {
      if (!(e instanceof ApiError)) return;
      setFault(e);
      if (e.status === 409) await client.invalidateQueries({ queryKey: options.job(key).queryKey });
    },
    [client, key],
  );

  const undo = useCallback(() => {
    latest.current = null;
    base.current = null;
    dropDraft(key);
    setDraft(null);
    setFault(null);
    // Two presses take two edits back: the second means the state that the first leaves behind.
    void inLine(async () => {
      try {
        accept(await commands.undoJob(key, client.getQueryData(options.job(key).queryKey)?.version));
      } catch (e) {
        await refused(e);
      }
    });
  }, [accept, client, inLine, key, refused]);

  const ask = useCallback<Editor["ask"]>(
    (what, body) => {
      window.clearTimeout(timer.current);
      void flush();
      asking.current += 1;
      return inLine(async () => {
        const version = client.getQueryData(options.job(key).queryKey)?.version ?? 0;
        try {
          accept(await commands.editJob(key, what, version, body));
          setFault(null);
          return true;
        } catch (e) {
          await refused(e);
          return false;
        } finally {
          asking.current -= 1;
          if (asking.current === 0) {
            const [changes, stored] = [after.current, client.getQueryData(options.job(key).queryKey)];
            after.current = [];
            if (stored && latest.current === null) setDraft(null);
            if (stored && changes.length > 0) {
              const next = changes.reduce((job, change) => change(job), latest.current ?? stored.job);
              base.current ??= stored.version;
              latest.current = next;
              setDraft(next);
              kept.current = keepDraft(key, { version: base.current, job: next, behind: false });
              timer.current = window.setTimeout(() => void flush(), 10);
            }
          }
        }
      });
    },
    [accept, client, flush, inLine, key, refused],
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
