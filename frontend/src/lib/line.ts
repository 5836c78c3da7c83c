import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { change, read, standing } from "./kept";
import { waitsAfter } from "./reach";

/**
 * The line of touches and typed readings on their way, as the page and its worker both work it off: the oldest first,
 * nothing overtakes on the same job, each taken off only when the server has said that it has it. Sent twice, the
 * server knows it by its id.
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

export const LINE = "outbox";
/** Name by which a browser is asked to work the line off when it has signal again, the page open or not. */
export const SYNC = "rough-draw-line";

const listed = (found: unknown): Waiting[] => (Array.isArray(found) ? (found as Waiting[]) : []);

/** What stands in the line. */
export const inLine = (): Waiting[] => listed(read(LINE));

/** What of the line stands on the device: would be there still if the page went now. */
export const keptInLine = (): Waiting[] => listed(standing(LINE));

/** Change the line. Rejects where the device has no room for it: memory has it then. */
export const rewrite = (make: (old: Waiting[]) => Waiting[]): Promise<void> =>
  change<unknown>(LINE, (old) => {
    const left = make(listed(old));
    return left.length > 0 ? left : undefined;
  });

/** The line without one of it. */
export const without =
  (id: string) =>
  (old: Waiting[]): Waiting[] =>
    old.filter((i) => i.id !== id);

/** The line with a change to one of it. */
export const withOne =
  (id: string, more: Partial<Waiting>) =>
  (old: Waiting[]): Waiting[] =>
    old.map((i) => (i.id === id ? { ...i, ...more } : i));

/** The one that goes next. */
export function nextOf(items: Waiting[]): Waiting | undefined {
  const held = new Set(items.filter((i) => i.refused).map((i) => i.job));
  return items.find((i) => !held.has(i.job));
}

/** One at a time in the whole browser, where it can see to that; the server sorts out the rest by ids. */
export async function alone(work: () => Promise<void>): Promise<void> {
  if (navigator.locks) await navigator.locks.request(LINE, work);
  else await work();
}

/** Send one: taken, to be tried again later, or what the server has against it. */
export async function deliver(item: Waiting): Promise<"taken" | "later" | ApiError> {
  // The server's own clock stamps what reaches it at once; what has waited keeps the time at which it was made.
  const late = item.held || item.tries > 0 || Date.now() / 1000 - item.at > 2;
  try {
    if (item.what === "touch") await commands.touch(item.job, { ...item.body, key: item.id, ...(late ? { at: item.at, sent_at: Date.now() / 1000 } : {}) });
    else {
      const { gauge, part = null, pa, dial = null } = item.body as ReadingBody;
      await commands.addReadings(item.job, gauge, part, [{ at: item.at, pa, dial, key: item.id }]);
    }
    return "taken";
  } catch (e) {
    return e instanceof ApiError && !waitsAfter(e.status) ? e : "later";
  }
}
