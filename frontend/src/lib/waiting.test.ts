import { describe, expect, it } from "vitest";

import type { LiveOut, SeriesOut } from "../api/client";
import type { Waiting } from "./outbox";
import { readingsWith, touchesWith, withSent, withWaiting } from "./waiting";

const live = { now: 100, phase: "before", pump_on: false, started_at: null, shut: ["a"], opened: [], next: [{ kind: "pump-on" }], standin: false, pa: 5, isolated_at: null } as unknown as LiveOut;
const touch = (kind: string, at = 110): Waiting => ({ id: kind, job: "j", what: "touch", body: { kind }, at, tries: 0 });
const reading = (pa: number | null, at = 120): Waiting => ({ id: `r${at}`, job: "j", what: "reading", body: { gauge: "typed", pa }, at, tries: 0 });

describe("a run with what is on its way", () => {
  it("stays the same object where nothing waits", () => expect(withWaiting(live, [], false)).toBe(live));

  it("stands as the steps on their way leave it", () => {
    const out = withWaiting(live, [touch("pump-on"), touch("open:a"), touch("isolate", 130)], false)!;
    expect(out).toMatchObject({ pump_on: true, started_at: 110, phase: "hold", isolated_at: 130, opened: ["a"], shut: [] });
    expect(out.next).toEqual([]);
  });

  it("shows a figure that was typed, and over range as such", () => {
    expect(withWaiting(live, [reading(33)], false)).toMatchObject({ pa: 33, over_range: false, words: "waiting to be sent" });
    expect(withWaiting(live, [reading(null)], false)).toMatchObject({ pa: null, over_range: true });
  });

  it("lets the clock go on without signal, but not that of a simulated gauge", () => {
    expect(withWaiting(live, [], true)!.now).toBeGreaterThan(1e9);
    expect(withWaiting({ ...live, standin: true }, [], true)!.now).toBe(100);
  });

  it("stands as sent, on the gauge's own clock, once the signal is gone", () => expect(withSent({ ...live, standin: true }, touch("pump-on"))).toMatchObject({ pump_on: true, started_at: 100 }));
});

describe("lists with what is on its way", () => {
  it("puts steps at the end, in words", () => {
    const out = touchesWith([{ kind: "note", words: "Note", at: 1, note: "", hand: "" }], [touch("valve-flush"), reading(3)]);
    expect(out.map((t) => t.words)).toEqual(["Note", "Valve flush"]);
    expect(out[1]!.note).toContain("waiting");
  });

  it("adds readings to their own gauge, or begins one", () => {
    const series: SeriesOut[] = [{ part: null, gauge: "typed", at: [1], pa: [9], total: 1, thinned: false, simulated: [] }];
    const out = readingsWith(series, [reading(8), { ...reading(7), body: { gauge: "other", pa: 7 } }]);
    expect(out.map((s) => [s.gauge, s.pa])).toEqual([
      ["typed", [9, 8]],
      ["other", [7]],
    ]);
    expect(series[0]!.pa).toEqual([9]);
  });
});
