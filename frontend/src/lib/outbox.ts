import { useMemo, useSyncExternalStore } from "react";

import type { ApiError } from "../api/client";
import { hasRoom, onChange, ready, refresh } from "./kept";
import { alone, deliver, inLine, keptInLine, LINE, nextOf, rewrite, SYNC, withOne, without, type Waiting } from "./line";
import { onBack, reach, useReach } from "./reach";

export type { Waiting } from "./line";

/** The page's side of the line: what is put into it, who waits for it, when it is tried again. */

const FIRST_WAIT_MS = 1500;
const LONGEST_WAIT_MS = 15_000;

const waits = new Map<string, (e: ApiError | null) => void>();
const sent = new Set<(item: Waiting) => void>();
let again: number | undefined;
let pause = FIRST_WAIT_MS;
let busy = false;

/** That the device has no room is told by the page; the line goes on in memory. */
const written = (make: (old: Waiting[]) => Waiting[]): Promise<void> => rewrite(make).catch(() => undefined);

/** An id of its own. Not `randomUUID`: browsers keep that from pages that came by plain HTTP over a network. */
const freshId = (): string => [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, "0")).join("");

/** Put something in the line. Resolves once it is sent, or kept because the server cannot be reached. */
export function send(job: string, what: Waiting["what"], body: Waiting["body"]): Promise<"sent" | "waiting"> {
  // A device's clock that is set back in between changes no order.
  const last = inLine().at(-1)?.at ?? 0;
  // Behind what is only on its way it is not held up: both get the server's time, in their order.
  const held = !reach().ok || inLine().some((i) => i.held || i.tries > 1);
  const item: Waiting = { id: freshId(), job, what, body, at: Math.max(Date.now() / 1000, last + 0.001), tries: 0, held };
  // Written down before it goes: what is lost on the way is still here.
  const kept = written((old) => [...old, item]);
  return new Promise((resolve, reject) => {
    waits.set(item.id, (e) => {
      waits.delete(item.id);
      if (e === null) resolve(inLine().some((i) => i.id === item.id) ? "waiting" : "sent");
      else {
        // Whoever asked is told at once, and decides; it does not stand in the line.
        void written(without(item.id)).then(() => {
          reject(e);
          return flush();
        });
      }
    });
    void kept.then(flush);
  });
}

/** Take something out of the line; what stood behind it goes on. */
export function drop(id: string): void {
  void written(without(id)).then(flush);
}

/** Try one that was refused again. */
export function retry(id: string): void {
  void written(withOne(id, { refused: undefined })).then(flush);
}

/** Called with everything that has been taken by the server. */
export function onSent(act: (item: Waiting) => void): () => void {
  sent.add(act);
  return () => sent.delete(act);
}

/** Send what waits, the oldest first; nothing overtakes on the same job. */
export async function flush(): Promise<void> {
  if (busy) return;
  busy = true;
  try {
    await alone(run);
  } finally {
    busy = false;
  }
  if (nextOf(inLine()) && reach().ok && again === undefined) void flush();
}

async function run(): Promise<void> {
  // Another tab, or the worker, may have sent some of it.
  await refresh(LINE).catch(() => undefined);
  for (let next = nextOf(inLine()); next; next = nextOf(inLine())) {
    if (!(await attempt(next))) {
      later();
      break;
    }
    pause = FIRST_WAIT_MS;
  }
  // Who still waits for an answer is told that it is kept: the server is out of reach, or something refused is before it.
  waits.forEach((done) => done(null));
}

async function attempt(item: Waiting): Promise<boolean> {
  void written((old) => old.map((i) => (i.id === item.id ? { ...i, tries: i.tries + 1 } : i)));
  const outcome = await deliver(item);
  if (outcome === "later") return false;
  if (outcome === "taken") {
    await written(without(item.id));
    waits.get(item.id)?.(null);
    sent.forEach((s) => s(item));
    return true;
  }
  const asker = waits.get(item.id);
  if (asker) asker(outcome);
  else await written(withOne(item.id, { refused: outcome.problem.detail }));
  return true;
}

function later(): void {
  window.clearTimeout(again);
  again = window.setTimeout(() => {
    again = undefined;
    void flush();
  }, pause);
  pause = Math.min(LONGEST_WAIT_MS, pause * 2);
  void syncLater();
}

/** Ask the browser to send it when there is signal again, though the page be closed by then. Few browsers can. */
async function syncLater(): Promise<void> {
  const worker = (await navigator.serviceWorker?.getRegistration()) as (ServiceWorkerRegistration & { sync?: { register: (tag: string) => Promise<void> } }) | undefined;
  await worker?.sync?.register(SYNC).catch(() => undefined);
}

const NONE: Waiting[] = [];

const changed = (t: () => void) => onChange((name) => name === LINE && t());

/** Everything that waits, of one job where it is named. What is on its first way while the server answers is not waiting. */
export const useOutbox = (job?: string): Waiting[] => useWaiting(inLine, job);

/** The same as it stands on the device: what is said to be kept is kept. */
export const useKept = (): Waiting[] => useWaiting(keptInLine);

function useWaiting(of: () => Waiting[], job?: string): Waiting[] {
  const offline = !useReach().ok;
  const all = useSyncExternalStore(changed, () => some(of()));
  return useMemo(() => {
    const mine = all.filter((i) => (job === undefined || i.job === job) && (offline || i.held || i.refused || i.tries > 1));
    return mine.length > 0 ? mine : NONE;
  }, [all, job, offline]);
}

const some = (found: Waiting[]): Waiting[] => (found.length > 0 ? found : NONE);

/** Whether what waits stands on the device; where it has no room, only this page has it. */
export const useRoom = (): boolean => useSyncExternalStore(onChange, hasRoom);

if (typeof window !== "undefined") {
  onBack(() => {
    pause = FIRST_WAIT_MS;
    window.clearTimeout(again);
    again = undefined;
    void flush();
  });
  void ready.then(() => inLine().length > 0 && window.setTimeout(() => void flush(), 300));
}
