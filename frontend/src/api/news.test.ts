import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, test, vi } from "vitest";

import type { LiveOut, SeriesOut, YardRow } from "./client";
import { Newsroom, withRows } from "./news";
import { options, untilNext } from "./options";
import { PAGE } from "./page";

const row = (key: string, rank: number, updated_at = 0) => ({ key, rank, updated_at }) as YardRow;
const asked = (client: QueryClient) => vi.spyOn(client, "invalidateQueries").mockResolvedValue();
const keys = (spy: ReturnType<typeof asked>) => spy.mock.calls.map(([f]) => (f?.queryKey ?? []).join(" "));

let client: QueryClient;
beforeEach(() => {
  vi.useFakeTimers();
  client = new QueryClient();
});
afterEach(() => {
  vi.useRealTimers();
});

test("rows take the place of what stood there, in the server's order; one that is gone goes", () => {
  const old = [row("a", 1), row("b", 2), row("c", 3)];
  expect(withRows(old, ["c", "a"], [row("c", 0)]).map((r) => r.key)).toEqual(["c", "b"]);
  expect(withRows(old, ["d"], [row("d", 2, 5)]).map((r) => r.key)).toEqual(["a", "d", "b", "c"]);
});

test("a change by another page asks again for what hangs on it; one's own does not", () => {
  const spy = asked(client);
  const room = new Newsroom(client);
  room.hear({ kind: "changed", jobs: [{ job: "quay", by: PAGE }], groups: [{ group: "kit", by: PAGE }] });
  expect(keys(spy)).toEqual([]);
  room.hear({ kind: "changed", jobs: [{ job: "quay", by: "other" }], groups: [{ group: "kit", by: "" }] });
  expect(keys(spy)).toEqual(expect.arrayContaining(["live quay", "touches quay", "job quay", "kit", "pumps"]));
});

test("new jobs make the Yard old, whoever made them; a group nobody knows makes nothing old", () => {
  const spy = asked(client);
  new Newsroom(client).hear({ kind: "changed", jobs: [], groups: [{ group: "job-files", by: PAGE }, { group: "dial", by: "x" }] });
  expect(keys(spy)).toEqual(["yard"]);
});

test("readings that come close together are put on the trace together, each of its own gauge", () => {
  const room = new Newsroom(client);
  const { queryKey } = options.readings("quay");
  client.setQueryData(queryKey, []);
  room.watch("quay");
  const put = vi.spyOn(client, "setQueryData");
  const read = (gauge: string, at: number) => room.hear({ kind: "readings", job: "quay", gauge, part: gauge, at: [at], pa: [5] });
  read("G", 1);
  vi.advanceTimersByTime(1);
  expect(put).toHaveBeenCalledTimes(1);
  for (let n = 2; n < 12; n += 1) read(n % 3 ? "G" : "H", n);
  vi.advanceTimersByTime(300);
  expect(put).toHaveBeenCalledTimes(2);
  expect(client.getQueryData(queryKey)?.map((s) => [s.gauge, s.at])).toEqual([
    ["G", [1, 2, 4, 5, 7, 8, 10, 11]],
    ["H", [3, 6, 9]],
  ]);
});

test("readings are put on the trace of a watched job, and of no other", () => {
  const room = new Newsroom(client);
  for (const job of ["quay", "pier"]) client.setQueryData(options.readings(job).queryKey, []);
  room.watch("quay");
  for (const job of ["quay", "pier"]) room.hear({ kind: "readings", job, gauge: "G", part: "g", at: [1, 2], pa: [5, null] });
  vi.advanceTimersByTime(10);
  expect(client.getQueryData(options.readings("quay").queryKey)?.[0]).toMatchObject({ gauge: "G", at: [1, 2], pa: [5, null] });
  expect(client.getQueryData(options.readings("pier").queryKey)).toEqual([]);
});

test("a reading that comes while the whole trace is asked for is on it after, whichever was read first", async () => {
  const room = new Newsroom(client);
  const { queryKey } = options.readings("quay");
  const whole = [{ gauge: "G", part: "g", at: [1, 2], pa: [9, 8], total: 2, thinned: false, simulated: [] }] as SeriesOut[];
  let answer: (s: SeriesOut[]) => void = () => undefined;
  client.setQueryData(queryKey, whole);
  void client.fetchQuery({ queryKey, queryFn: () => new Promise<SeriesOut[]>((done) => (answer = done)), staleTime: 0 });
  room.watch("quay");
  room.hear({ kind: "readings", job: "quay", gauge: "G", part: "g", at: [3], pa: [7] });
  await vi.advanceTimersByTimeAsync(600);
  expect(client.getQueryData(queryKey)?.[0]?.at).toEqual([1, 2, 3]);
  answer(whole);
  await vi.advanceTimersByTimeAsync(600);
  expect(client.getQueryData(queryKey)?.[0]?.at).toEqual([1, 2, 3]);
  const put = vi.spyOn(client, "setQueryData");
  await vi.advanceTimersByTimeAsync(2000);
  expect(put).not.toHaveBeenCalled();
});

test("after a break everything is asked for again; at first, what came before the stream", () => {
  const spy = asked(client);
  const room = new Newsroom(client);
  room.watch("quay");
  room.hear({ kind: "hello" });
  expect(keys(spy)).toEqual(["readings quay"]);
  room.hear({ kind: "hello" }, true);
  expect(keys(spy)).toEqual(["readings quay", ""]);
});

test("where a run stands is asked for when its next step falls due, at its own pace", () => {
  const live = (due: (number | null)[], speed = 1) => ({ phase: "draw", now: 100, speed, next: due.map((due_at) => ({ due_at })) }) as unknown as LiveOut;
  expect(untilNext(undefined)).toBeGreaterThan(10_000);
  expect(untilNext(live([]))).toBe(8000);
  expect(untilNext(live([105, 103]))).toBeCloseTo(3250);
  expect(untilNext(live([400], 60))).toBeCloseTo(5250);
  expect(untilNext(live([99, null]))).toBe(8000);
});
