import { expect, test } from "vitest";

import type { PlanOut } from "../api/client";
import { spoken } from "./line";

type Way = [port: string, ...parts: string[]];

/** A plan of which only the drawing and the names of parts are asked. */
function plan(parts: Record<string, string>, ways: Way[] = [], valves: [valve: string, label: string][] = []): PlanOut {
  const drawing = {
    strokes: Object.entries(parts).map(([part, label]) => ({ part, label, path: "", x: 0, y: 0 })),
    boxes: [],
    valves: valves.map(([valve, label]) => ({ valve, part: valve, label, x: 0, y: 0 })),
    ways: ways.map(([port, ...on]) => ({ port, parts: on })),
  };
  return { drawing, parts: [], valves: {} } as unknown as PlanOut;
}

test("what has a name of its own keeps it", () => {
  const told = spoken(plan({ pump: "8 CFM pump", hose: "3/8 in × 0.9 m" }, [["suction", "pump", "hose"]]));
  expect([...told.values()]).toEqual(["8 CFM pump", "3/8 in × 0.9 m"]);
});

test("two of one name are told apart by their way", () => {
  const told = spoken(plan({ a: "core tool", b: "core tool" }, [["suction-port", "a"], ["liquid-port", "b"]]));
  expect(told.get("a")).toBe("core tool, suction port");
  expect(told.get("b")).toBe("core tool, liquid port");
});

test("what is on one way, or on all, is counted", () => {
  const told = spoken(plan({ a: "1/4 in × 1.5 m", b: "1/4 in × 1.5 m", c: "1/4 in × 1.5 m" }, [["suction", "a", "b"], ["liquid", "a", "c"]]));
  expect(told.get("a")).toBe("1/4 in × 1.5 m");
  expect(told.get("b")).toBe("1/4 in × 1.5 m, suction");
  const alone = spoken(plan({ a: "hose", b: "hose" }, [["suction", "a", "b"]]));
  expect([alone.get("a"), alone.get("b")]).toEqual(["hose, 1 of 2", "hose, 2 of 2"]);
});

test("valves of one name are counted, and no valve is taken for a part", () => {
  const told = spoken(plan({ x: "TXV" }, [], [["x", "TXV"], ["y", "TXV"], ["z", "solenoid valve"]]));
  expect(Object.fromEntries(told)).toEqual({ x: "TXV", "valve:x": "TXV, 1 of 2", "valve:y": "TXV, 2 of 2", "valve:z": "solenoid valve" });
});

test("no two things to press have one name, whatever is drawn", () => {
  const kinds = ["hose", "core tool", "valve"];
  for (let seed = 1; seed < 60; seed++) {
    let n = seed;
    const next = (below: number) => (n = (n * 48271) % 2147483647) % below;
    const parts = Object.fromEntries(Array.from({ length: 1 + next(7) }, (_, i) => [`p${i}`, kinds[next(3)]!]));
    const ways = Array.from({ length: next(4) }, (_, i): Way => [`port-${i}`, ...Object.keys(parts).filter(() => next(2) === 0)]);
    const told = [...spoken(plan(parts, ways)).values()];
    expect(new Set(told).size).toBe(told.length);
  }
});
