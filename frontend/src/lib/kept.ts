import { createStore } from "idb-keyval";

/**
 * What this device keeps until the server has it: the line of touches and readings, edits of sheets, the answers for a
 * new job. All of it is in memory too, so that a page reads it at once; it stands in IndexedDB, changed in one
 * transaction, and tabs tell each other. Where the device has no room or no store, memory still has it: the page is told, and must stay open.
 */

const STORE = "rough-draw-kept";
/** Names under which earlier versions kept the same in `localStorage`. */
const EARLIER: [prefix: string, name: (rest: string) => string][] = [
  ["rough-draw-outbox", () => "outbox"],
  ["rough-draw-draft:", (key) => `draft:${key}`],
  ["rough-draw-new-job", () => "new-job"],
];

const memory = new Map<string, unknown>();
/** What stands on the device: memory is ahead of it while a change is written. */
const stands = new Map<string, unknown>();
const told = new Set<(name: string) => void>();
let room = true;
let open: ReturnType<typeof createStore> | null = null;
let channel: BroadcastChannel | null = null;

type Make<T> = (old: T | undefined) => T | undefined;

/** Everything is read in, and what earlier versions kept has moved here. */
export const ready: Promise<void> = begin();

async function begin(): Promise<void> {
  try {
    open = createStore(STORE, "kept");
    await readAll();
  } catch {
    // No store in this browser, or it is shut off: memory is all there is.
    open = null;
    room = false;
  }
  if (typeof BroadcastChannel !== "undefined") {
    channel = new BroadcastChannel(STORE);
    channel.onmessage = (e: MessageEvent<string>) => void refresh(e.data);
  }
  await takeEarlier();
}

function readAll(): Promise<void> {
  return inStore("readonly", (s) => {
    s.openCursor().onsuccess = (e) => {
      const at = (e.target as IDBRequest<IDBCursorWithValue | null>).result;
      if (!at) return;
      memory.set(String(at.key), at.value);
      stands.set(String(at.key), at.value);
      at.continue();
    };
  });
}

async function takeEarlier(): Promise<void> {
  if (typeof localStorage === "undefined") return;
  for (const key of Object.keys(localStorage)) {
    const found = EARLIER.find(([prefix]) => key.startsWith(prefix));
    if (!found) continue;
    const value = parsed(localStorage.getItem(key));
    if (value !== null) await change(found[1](key.slice(found[0].length)), (old) => old ?? value).catch(() => undefined);
    if (room) localStorage.removeItem(key);
  }
}

function parsed(text: string | null): unknown {
  try {
    return JSON.parse(text ?? "null") as unknown;
  } catch {
    return null;
  }
}

/** One transaction: settled when it is on the device, or is not. */
function inStore(mode: IDBTransactionMode, work: (s: IDBObjectStore) => void): Promise<void> {
  if (!open) return Promise.reject(new Error("no store"));
  return open(
    mode,
    (s) =>
      new Promise<void>((done, failed) => {
        s.transaction.oncomplete = () => done();
        s.transaction.onabort = s.transaction.onerror = () => failed(s.transaction.error ?? new Error("not stored"));
        work(s);
      }),
  );
}

/** What is kept under a name. */
export const read = <T>(name: string): T | undefined => memory.get(name) as T | undefined;

/** What would be there still if the page went now: what stands on the device, or, where that has no room, in memory. */
export const standing = <T>(name: string): T | undefined => (room ? stands.get(name) : memory.get(name)) as T | undefined;

export const names = (): string[] => [...memory.keys()];

/** Whether what was kept last stands on the device. */
export const hasRoom = (): boolean => room;

/** Said where what is to be sent is in memory alone. */
export const NO_ROOM = "This device has no room to keep it: leave this page open until it is sent.";

/** Called with the name of what has changed, here or in another tab. */
export function onChange(act: (name: string) => void): () => void {
  told.add(act);
  return () => told.delete(act);
}

function put(name: string, value: unknown): void {
  if (value === undefined) memory.delete(name);
  else memory.set(name, value);
  told.forEach((t) => t(name));
}

/** Changes under way, one after the other by name, and how many there are: what is read meanwhile is older than memory. */
const turn = new Map<string, Promise<void>>();
const under = new Map<string, number>();
let changes = 0;
/** Changes that found no room: they are made again, before the next one. */
const owed = new Map<string, Make<unknown>[]>();

/**
 * Change what is kept under a name: in memory at once, on the device when the promise settles. `make` may be called
 * again, and on what another tab has written meanwhile; `undefined` keeps nothing. Rejects where the device has no room.
 */
export function change<T>(name: string, make: Make<T>): Promise<void> {
  put(name, make(read<T>(name)));
  changes += 1;
  under.set(name, (under.get(name) ?? 0) + 1);
  const before = turn.get(name) ?? Promise.resolve();
  const mine = before.catch(() => undefined).then(() => write(name, make as Make<unknown>));
  turn.set(name, mine);
  return mine;
}

async function write(name: string, make: Make<unknown>): Promise<void> {
  const makes = [...(owed.get(name) ?? []), make];
  let made: unknown;
  let is = true;
  try {
    await inStore("readwrite", (s) => {
      const asked = s.get(name) as IDBRequest<unknown>;
      asked.onsuccess = () => {
        made = makes.reduce((old, next) => next(old), asked.result);
        if (made === undefined) s.delete(name);
        else s.put(made, name);
      };
    });
    owed.delete(name);
    stands.set(name, made);
    channel?.postMessage(name);
  } catch (e) {
    is = false;
    owed.set(name, makes);
    throw e;
  } finally {
    const left = (under.get(name) ?? 1) - 1;
    under.set(name, left);
    room = is;
    if (is && left === 0 && !same(made, read(name))) put(name, made);
    // Who asks what stands, or whether there is room, hears of it too.
    else told.forEach((t) => t(name));
  }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Read again what another tab, or the worker, may have changed. */
export async function refresh(name: string): Promise<void> {
  if (!open || owed.has(name)) return;
  const before = changes;
  let found: unknown;
  await inStore("readonly", (s) => {
    const asked = s.get(name) as IDBRequest<unknown>;
    asked.onsuccess = () => {
      found = asked.result;
    };
  });
  if (changes !== before) return;
  stands.set(name, found);
  if (!(under.get(name) ?? 0) && !same(found, read(name))) put(name, found);
}
