import { useSyncExternalStore } from "react";

/** Alarms told by the device itself while the page is behind others, where the browser can and the person allows it. */

export type Allowed = "cannot" | "ask" | "yes" | "no";

const told = new Set<() => void>();
/** What the device has been told of: an alarm is told once for each time it begins. */
let known = new Set<string>();

/** What the browser said last. To ask it is a question to another process, too dear for every render. */
let answer: Allowed | undefined;

function asked(): Allowed {
  // Browsers keep it from pages that came by plain HTTP over a network.
  if (typeof Notification === "undefined" || !window.isSecureContext) return "cannot";
  return Notification.permission === "granted" ? "yes" : Notification.permission === "denied" ? "no" : "ask";
}

export const allowed = (): Allowed => (answer ??= asked());

function askAgain(): void {
  const before = answer;
  answer = asked();
  if (answer !== before) told.forEach((t) => t());
}

export async function askLeave(): Promise<void> {
  await Notification.requestPermission();
  askAgain();
}

// Leave is given and taken in the browser's own settings too: whoever comes back from there finds it so.
if (typeof window !== "undefined") window.addEventListener("focus", askAgain);

function hear(t: () => void): () => void {
  told.add(t);
  return () => told.delete(t);
}

export const useAllowed = (): Allowed => useSyncExternalStore(hear, allowed);

export interface Ring {
  key: string;
  words: string;
  title: string;
  path: string;
}

/** Tell of what rings now and did not before, if nobody looks at the page. One notice an alarm, taken over by its tag. */
export function tellOf(rings: Ring[]): void {
  const fresh = rings.filter((r) => !known.has(r.key));
  known = new Set(rings.map((r) => r.key));
  if (!document.hidden || allowed() !== "yes") return;
  for (const r of fresh) void show(r);
}

async function show(r: Ring): Promise<void> {
  const notice = { body: r.title, tag: r.key, icon: "/icon-192.png", data: { path: r.path } };
  // Phones take it from the worker alone.
  const worker = await navigator.serviceWorker?.getRegistration();
  if (worker) {
    await worker.showNotification(r.words, notice);
    return;
  }
  const shown = new Notification(r.words, notice);
  shown.onclick = () => {
    window.focus();
    window.location.assign(r.path);
  };
}
