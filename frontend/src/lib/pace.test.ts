import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { Pace } from "./pace";

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

test("many wishes are one piece of work in a while, and the last is not lost", () => {
  const pace = new Pace();
  const work = vi.fn();
  for (let n = 0; n < 100; n++) {
    pace.wish("x", 1000, work);
    vi.advanceTimersByTime(50);
  }
  vi.advanceTimersByTime(2000);
  expect(work.mock.calls.length).toBeGreaterThanOrEqual(5);
  expect(work.mock.calls.length).toBeLessThanOrEqual(6);
});

test("names do not wait for each other, and what is stopped is not done", () => {
  const pace = new Pace();
  const [a, b] = [vi.fn(), vi.fn()];
  pace.wish("a", 1000, a);
  pace.wish("b", 1000, b);
  vi.advanceTimersByTime(1);
  expect([a.mock.calls.length, b.mock.calls.length]).toEqual([1, 1]);
  pace.wish("a", 1000, a);
  pace.stop();
  vi.advanceTimersByTime(5000);
  expect(a).toHaveBeenCalledOnce();
});
