import { useSyncExternalStore } from "react";

import { HEALTH } from "../api/health";

/** Whether the server answers. Every request says so; while it does not, it is asked now and then. */

export interface Reach {
  ok: boolean;
  /** Since when it has been so, ms. */
  since: number;
}

let now: Reach = { ok: true, since: Date.now() };
const told = new Set<() => void>();
const back = new Set<() => void>();
const lost = new Set<() => void>();
let asking: number | undefined;

const PING_MS = 2500;

/** What a request found out. */
export function heard(ok: boolean): void {
  if (ok === now.ok) return;
  now = { ok, since: Date.now() };
  told.forEach((t) => t());
  globalThis.clearInterval(asking);
  if (ok) back.forEach((b) => b());
  else {
    // The worker is woken when there is signal again; it does not ask.
    if (typeof window !== "undefined") asking = window.setInterval(ping, PING_MS);
    lost.forEach((l) => l());
  }
}

function ping(): void {
  fetch(HEALTH, { cache: "no-store" }).then(
    (r) => heard(r.ok),
    () => heard(false),
  );
}

/** Something that should go on has broken off: ask whether the server is still there. */
export const doubted = (): void => ping();

/** Answers after which what was to be sent waits: no signal, not signed in yet, too busy. */
export const waitsAfter = (status: number): boolean => [0, 401, 403, 408, 429, 502, 503, 504].includes(status);

export const reach = (): Reach => now;

/** Called each time the server answers again. */
export function onBack(act: () => void): () => void {
  back.add(act);
  return () => back.delete(act);
}

/** Called each time the server stops answering. */
export function onLost(act: () => void): () => void {
  lost.add(act);
  return () => lost.delete(act);
}

export function useReach(): Reach {
  return useSyncExternalStore(
    (t) => {
      told.add(t);
      return () => told.delete(t);
    },
    () => now,
  );
}

if (typeof window !== "undefined") {
  window.addEventListener("online", ping);
  window.addEventListener("offline", () => heard(false));
}
