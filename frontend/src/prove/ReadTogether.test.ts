import { expect, test } from "vitest";

import type { GateOut, Job, ProveOut } from "../api/client";
import { NOTHING_READ, toBeRead, withRead } from "./ReadTogether";

const gate = (kind: GateOut["kind"], state: GateOut["state"] = "open") => ({ key: kind, kind, state, items: [] }) as unknown as GateOut;
const stage = (key: string, verdict = "open", optional = false) => ({ key, mark: `mark-${key}`, short: key, verdict, optional });
const proof = { stages: [stage("pump"), stage("hose-a"), stage("hose-b", "good"), stage("tool", "open", true)] } as unknown as ProveOut;
const job = { rig: { parts: [{ kind: "pump", id: "p" }, { kind: "hose", id: "hose-a" }] }, prove: { oil: "unknown", stages: { "hose-b": { settled_micron: 40 } } } } as unknown as Job;
const every = (["pressure-test", "oil", "blank-off", "rig-proof", "gauge"] as const).map((k) => gate(k));

test("only what is open and read is asked for", () => {
  expect(toBeRead([...every, gate("items"), gate("oil", "passed")]).map((g) => g.key)).toEqual(every.map((g) => g.key));
});

test("nothing read leaves the sheet as it was, whatever is proposed", () => {
  expect(withRead(job, every, proof, { ...NOTHING_READ, startC: 18, endC: 18 })).toEqual(job);
});

test("each figure goes to its check, and what it says of the pump to the pump", () => {
  const found = withRead(job, every, proof, { startKpa: 3000, endKpa: 2990, startC: 18, endC: 17, minutes: 30, oil: "milky", inAir: "over", settled: { pump: 34, "hose-a": 60, "hose-b": 99, tool: 50 } });
  expect(found.prove).toMatchObject({ test_start_kpa: 3000, test_end_kpa: 2990, test_start_c: 18, test_end_c: 17, test_minutes: 30, oil: "milky", gauge: { in_air: "over" } });
  expect(found.prove!.stages).toMatchObject({ pump: { settled_micron: 34, part: "mark-pump" }, "hose-a": { settled_micron: 60, part: "mark-hose-a" }, "hose-b": { settled_micron: 40 } });
  expect(Object.keys(found.prove!.stages!)).not.toContain("tool");
  expect(found.rig!.parts!.find((p) => p.kind === "pump")).toMatchObject({ blank_off_micron: 34, oil: "wet" });
});

test("what is not asked for is not written", () => {
  const found = withRead(job, [gate("oil")], proof, { ...NOTHING_READ, startKpa: 3000, settled: { pump: 34 } });
  expect(found).toEqual(job);
});
