import { expect, test } from "vitest";

import type { GateOut } from "../api/client";
import { seenTogether, toBeSeen } from "./AllSeen";
import type { ProveDoc } from "./types";

const gate = (key: string, more: Partial<GateOut> = {}) =>
  ({ key, kind: "items", state: "open", title: key, any_of: false, proposed: "", items: ["a", "b"].map((value) => ({ value, label: value })), ...more }) as unknown as GateOut;
const prove = (gates: NonNullable<ProveDoc["gates"]> = {}) => ({ gates }) as ProveDoc;

test("only open checks that want no figure are answered together", () => {
  const gates = [gate("power"), gate("oil", { kind: "oil" }), gate("sweep", { kind: "sweep" }), gate("done", { state: "passed" }), gate("skipped", { state: "skipped" }), gate("bad", { state: "failed" })];
  expect(toBeSeen(gates).map((g) => g.key)).toEqual(["power", "sweep"]);
});

test("what was not seen stays open, and a choice that is not made", () => {
  const found = seenTogether([gate("power"), gate("heaters", { any_of: true }), gate("recovered", { any_of: true })], prove(), new Set(["power b"]), { heaters: "b" }, " by eye ");
  expect(found).toEqual({ power: { state: "open", note: "by eye", items: ["a"] }, heaters: { state: "open", note: "by eye", items: ["b"] } });
});

test("what was seen and said before stands", () => {
  const was = prove({ power: { state: "open", note: "Ines, 8 o'clock", items: ["b"] }, other: { state: "skipped", note: "x", items: [] } });
  const found = seenTogether([gate("power")], was, new Set(), {}, "");
  expect(found).toEqual({ power: { state: "open", note: "Ines, 8 o'clock", items: ["b", "a"] }, other: { state: "skipped", note: "x", items: [] } });
});

test("what the sheet speaks for is taken where nothing else was chosen", () => {
  const recovered = gate("recovered", { any_of: true, proposed: "a" });
  expect(seenTogether([recovered], prove(), new Set(), {}, "")).toMatchObject({ recovered: { items: ["a"] } });
  expect(seenTogether([recovered], prove(), new Set(), { recovered: "b" }, "")).toMatchObject({ recovered: { items: ["b"] } });
});
