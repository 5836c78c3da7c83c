import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { openLine, type Line } from "./newsLine";

/** A stream that is opened where the test says, and says what the test says. */
class Stream {
  static readonly CLOSED = 2;
  static all: Stream[] = [];
  onmessage: ((e: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  readyState = 1;
  constructor(readonly url: string) {
    Stream.all.push(this);
  }
  close() {
    this.readyState = Stream.CLOSED;
  }
  say(m: unknown) {
    this.onmessage?.({ data: JSON.stringify(m) });
  }
  static get open() {
    return Stream.all.filter((s) => s.readyState !== Stream.CLOSED);
  }
}

/** One lock, given to the next in line when it is let go. */
function locks() {
  let line: Promise<unknown> = Promise.resolve();
  return { request: (_: string, work: () => unknown) => (line = line.then(work)) };
}

const href = (jobs: string[]) => `/news?${jobs.join(",")}`;
const lines: Line[] = [];
const open = (tab: string, hear: (m: { n: number }, fell: boolean) => void = () => undefined, lost?: () => void) => {
  const line = openLine(href, tab, hear, lost);
  lines.push(line);
  return line;
};
const settled = () => new Promise((go) => setTimeout(go, 20));

beforeEach(() => {
  Stream.all = [];
  vi.stubGlobal("EventSource", Stream);
});
afterEach(() => {
  lines.splice(0).forEach((l) => l.close());
  vi.unstubAllGlobals();
});

test("without locks each tab has a stream of its own, of the jobs it watches", () => {
  vi.stubGlobal("navigator", {});
  open("a").watch(["one"]);
  open("b").watch(["two"]);
  expect(Stream.open.map((s) => s.url)).toEqual(["/news?one", "/news?two"]);
});

test("tabs share one stream of all that they watch, and all hear it", async () => {
  vi.stubGlobal("navigator", { locks: locks() });
  const heard: string[] = [];
  const a = open("a", (m) => heard.push(`a${m.n}`));
  a.watch(["one"]);
  await settled();
  const b = open("b", (m) => heard.push(`b${m.n}`));
  b.watch(["two"]);
  await settled();
  expect(Stream.open.map((s) => s.url)).toEqual(["/news?one,two"]);
  Stream.open[0]!.say({ n: 7 });
  await settled();
  expect(heard).toEqual(["a7", "b7"]);
  // The first is closed: the other takes over, with what it watches.
  a.close();
  await settled();
  expect(Stream.open.map((s) => s.url)).toEqual(["/news?two"]);
});

test("a stream that breaks off is told, and what comes after it may have missed something", () => {
  vi.stubGlobal("navigator", {});
  const heard: boolean[] = [];
  const lost = vi.fn();
  open("a", (_, fell) => heard.push(fell), lost);
  const here = Stream.open[0]!;
  here.say({ n: 1 });
  here.onerror?.();
  expect(lost).toHaveBeenCalledOnce();
  here.say({ n: 2 });
  here.say({ n: 3 });
  expect(heard).toEqual([false, true, false]);
});

test("a stream that was refused is asked for again", () => {
  vi.useFakeTimers();
  vi.stubGlobal("navigator", {});
  open("a");
  Stream.open[0]!.close();
  Stream.all[0]!.onerror?.();
  expect(Stream.open).toEqual([]);
  vi.advanceTimersByTime(6000);
  expect(Stream.open).toHaveLength(1);
  vi.useRealTimers();
});
