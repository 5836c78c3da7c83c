import { useMemo, useSyncExternalStore } from "react";

import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { onBack, reach, useReach, waitsAfter } from "./reach";

/**
 * Touches and typed readings on their way. Each is written down on this device before it is sent, has an id and a time
 * of its own, goes in the order it was made, and is taken off only when the server has said that it has it. Sent twice,
 * the server knows it by its id.
 */

/** A figure as it was typed: of a gauge in Pa, or of a needle in its own words. */
interface ReadingBody {
  gauge: string;
  part?: string | null;
  pa: number | null;
  dial?: string | null;
}

export interface Waiting {
  id: string;
  job: string;
  what: "touch" | "reading";
  /** What is sent, but for the id and the time. */
  body: { kind: string; note?: string } | ReadingBody;
  /** When it was made, epoch s. */
  at: number;
  tries: number;
  /** Made while the server was out of reach, or behind something that waited. */
  held?: boolean;
  /** Why the server would not take it; it waits for a person then, and what is behind it on the same job too. */
  refused?: string;
}

const STORE = "rough-draw-outbox";
const FIRST_WAIT_MS = 1500;
const LONGEST_WAIT_MS = 15_000;

let items: Waiting[] = load();
const told = new Set<() => void>();
const waits = new Map<string, (e: ApiError | null) => void>();
const sent = new Set<(item: Waiting) => void>();
let again: number | undefined;
let pause = FIRST_WAIT_MS;
let busy = false;

function load(): Waiting[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(STORE) ?? "[]");
    return Array.isArray(found) ? (found as Waiting[]) : [];
  } catch {
    return [];
  }
}

/** Another tab may have added or sent: what stands in the store is what counts. */
function change(make: (old: Waiting[]) => Waiting[]): void {
  items = make(load());
  localStorage.setItem(STORE, JSON.stringify(items));
  told.forEach((t) => t());
}

/** An id of its own. Not `randomUUID`: browsers keep that from pages that came by plain HTTP over a network. */
const freshId = (): string => [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, "0")).join("");

/** Put something in the line. Resolves once it is sent, or kept because the server cannot be reached. */
export function send(job: string, what: Waiting["what"], body: Waiting["body"]): Promise<"sent" | "waiting"> {
  const item: Waiting = { id: freshId(), job, what, body, at: Date.now() / 1000, tries: 0, held: !reach().ok || load().length > 0 };
  change((old) => [...old, item]);
  return new Promise((resolve, reject) => {
    waits.set(item.id, (e) => {
      waits.delete(item.id);
      if (e === null) resolve(items.some((i) => i.id === item.id) ? "waiting" : "sent");
      else {
        // Whoever asked is told at once, and decides; it does not stand in the line.
        drop(item.id);
        reject(e);
      }
    });
    void flush();
  });
}

/** Take something out of the line; what stood behind it goes on. */
export function drop(id: string): void {
  change((old) => old.filter((i) => i.id !== id));
  void flush();
}

/** Try one that was refused again. */
export function retry(id: string): void {
  change((old) => old.map((i) => (i.id === id ? { ...i, refused: undefined } : i)));
  void flush();
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
    // One tab sends at a time, where the browser can see to that; the server sorts out the rest by ids.
    if (navigator.locks) await navigator.locks.request(STORE, run);
    else await run();
  } finally {
    busy = false;
  }
  if (first() && reach().ok && again === undefined) void flush();
}

async function run(): Promise<void> {
  for (let next = first(); next; next = first()) {
    const outcome = await attempt(next);
    if (outcome === "later") {
      later();
      break;
    }
    pause = FIRST_WAIT_MS;
  }
  // Who still waits for an answer is told that it is kept: the server is out of reach, or something refused is before it.
  waits.forEach((done) => done(null));
}

function first(): Waiting | undefined {
  items = load();
  const held = new Set(items.filter((i) => i.refused).map((i) => i.job));
  return items.find((i) => !held.has(i.job));
}

async function attempt(item: Waiting): Promise<"done" | "later"> {
  // The server's own clock stamps what reaches it at once; what has waited keeps the time at which it was made.
  const late = item.held || item.tries > 0 || Date.now() / 1000 - item.at > 2;
  change((old) => old.map((i) => (i.id === item.id ? { ...i, tries: i.tries + 1 } : i)));
  try {
    if (item.what === "touch") await commands.touch(item.job, { ...item.body, key: item.id, ...(late ? { at: item.at } : {}) });
    else {
      const { gauge, part = null, pa, dial = null } = item.body as ReadingBody;
      await commands.addReadings(item.job, gauge, part, [{ at: item.at, pa, dial, key: item.id }]);
    }
  } catch (e) {
    if (!(e instanceof ApiError) || waitsAfter(e.status)) return "later";
    const asker = waits.get(item.id);
    if (asker) asker(e);
    else change((old) => old.map((i) => (i.id === item.id ? { ...i, refused: e.problem.detail } : i)));
    return "done";
  }
  drop(item.id);
  waits.get(item.id)?.(null);
  sent.forEach((s) => s(item));
  return "done";
}

function later(): void {
  window.clearTimeout(again);
  again = window.setTimeout(() => {
    again = undefined;
    void flush();
  }, pause);
  pause = Math.min(LONGEST_WAIT_MS, pause * 2);
}

const NONE: Waiting[] = [];

/** Everything that waits, of one job where it is named. What is on its first way while the server answers is not waiting. */
export function useOutbox(job?: string): Waiting[] {
  const offline = !useReach().ok;
  const all = useSyncExternalStore(
    (t) => {
      told.add(t);
      return () => told.delete(t);
    },
    () => items,
  );
  return useMemo(() => {
    const mine = all.filter((i) => (job === undefined || i.job === job) && (offline || i.held || i.refused || i.tries > 1));
    return mine.length > 0 ? mine : NONE;
  }, [all, job, offline]);
}

if (typeof window !== "undefined") {
  window.addEventListener("storage", (e) => {
    if (e.key !== STORE) return;
    items = load();
    told.forEach((t) => t());
  });
  onBack(() => {
    pause = FIRST_WAIT_MS;
    window.clearTimeout(again);
    again = undefined;
    void flush();
  });
  if (items.length > 0) window.setTimeout(() => void flush(), 300);
}
