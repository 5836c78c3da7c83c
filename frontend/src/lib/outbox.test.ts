import { describe, expect, it, vi } from "vitest";

import { problem, server } from "../test/server";

const fresh = async () => {
  vi.resetModules();
  const kept = await import("./kept");
  await kept.ready;
  return { ...(await import("./outbox")), ...(await import("./reach")), ...(await import("./line")), ...kept };
};

/** A busy machine is slow to turn. */
const PATIENCE = { timeout: 10_000 };

interface Stored {
  refused?: string;
  tries: number;
  body: { kind?: string };
}

/** What a page opened now would find on the device. */
const stored = async (): Promise<Stored[]> => {
  vi.resetModules();
  const kept = await import("./kept");
  await kept.ready;
  return kept.read<Stored[]>("outbox") ?? [];
};

/** The page's own memory is a step ahead of the device: what stands there is waited for. */
const nothingIsLeft = () => vi.waitFor(async () => expect(await stored()).toEqual([]), PATIENCE);

describe("what is on its way", () => {
  it("is sent, with an id of its own, and taken off the device", async () => {
    const asked = server(() => ({ status: 201 }));
    const { send } = await fresh();
    expect(await send("j", "touch", { kind: "pump-on" })).toBe("sent");
    expect(asked).toHaveLength(1);
    expect(asked[0]).toMatchObject({ method: "POST", path: "/api/jobs/j/touches", body: { kind: "pump-on" } });
    expect((asked[0]!.body as { key: string }).key).toMatch(/^[0-9a-f]{32}$/);
    expect((asked[0]!.body as { at?: number }).at).toBeUndefined();
    await nothingIsLeft();
  });

  it("goes right behind what is on its way, and both get the server's time: the order of two quick presses stands", async () => {
    const asked = server(() => ({ status: 201 }));
    const { send } = await fresh();
    expect(await Promise.all([send("j", "touch", { kind: "pump-on" }), send("j", "touch", { kind: "undo:pump-on" })])).toEqual(["sent", "sent"]);
    expect(asked.map((a) => (a.body as { kind: string; at?: number }).kind)).toEqual(["pump-on", "undo:pump-on"]);
    expect(asked.map((a) => (a.body as { at?: number }).at)).toEqual([undefined, undefined]);
    await nothingIsLeft();
  });

  it("waits without signal, and goes in its order and once when it is back, with the times it was made at", async () => {
    let there = false;
    const asked = server(() => (there ? { status: 201 } : "no signal"));
    const { send, heard, inLine } = await fresh();
    expect(await send("j", "touch", { kind: "pump-on" })).toBe("waiting");
    expect(await send("j", "reading", { gauge: "typed", pa: 50 })).toBe("waiting");
    await vi.waitFor(async () => expect(await stored()).toHaveLength(2), PATIENCE);
    there = true;
    asked.length = 0;
    heard(true);
    await vi.waitFor(() => expect(inLine()).toEqual([]), PATIENCE);
    const bodies = asked.filter((a) => a.method === "POST").map((a) => a.body as { at?: number; readings?: { at: number }[] });
    expect(bodies).toHaveLength(2);
    expect(bodies[0]!.at).toBeGreaterThan(1e9);
    expect(bodies[1]!.readings![0]!.at).toBeGreaterThanOrEqual(bodies[0]!.at!);
    await nothingIsLeft();
  });

  it("is told at once what the server will not take, and does not keep it", async () => {
    server(() => problem(422, "there is no valve 'x'"));
    const { send } = await fresh();
    await expect(send("j", "touch", { kind: "open:x" })).rejects.toThrow("there is no valve");
    await nothingIsLeft();
  });

  it("comes over from where an earlier version kept it, and holds what stands behind a refused one of the same job, and lets others pass", async () => {
    localStorage.setItem(
      "rough-draw-outbox",
      JSON.stringify([
        { id: "1", job: "a", what: "touch", body: { kind: "open:x" }, at: 1, tries: 1, held: true },
        { id: "2", job: "a", what: "touch", body: { kind: "pump-on" }, at: 2, tries: 0, held: true },
        { id: "3", job: "b", what: "touch", body: { kind: "isolate" }, at: 3, tries: 0, held: true },
      ]),
    );
    const asked = server((a) => ((a.body as { kind: string }).kind === "open:x" ? problem(422, "no such valve") : { status: 201 }));
    const { flush, drop, inLine } = await fresh();
    await flush();
    expect(asked.map((a) => (a.body as { kind: string }).kind)).toEqual(["open:x", "isolate"]);
    await vi.waitFor(
      async () =>
        expect((await stored()).map((i) => [i.body.kind, i.refused])).toEqual([
          ["open:x", "no such valve"],
          ["pump-on", undefined],
        ]),
      PATIENCE,
    );
    drop("1");
    await vi.waitFor(() => expect(inLine()).toEqual([]), PATIENCE);
    expect(asked.at(-1)!.body).toMatchObject({ kind: "pump-on", at: 2, key: "2" });
    await nothingIsLeft();
  });

  it("reads nothing where the store holds nonsense", async () => {
    localStorage.setItem("rough-draw-outbox", "{not json");
    const asked = server(() => ({ status: 201 }));
    const { send } = await fresh();
    expect(await send("j", "touch", { kind: "note" })).toBe("sent");
    expect(asked).toHaveLength(1);
  });

  it("is sent though the device has no room, and says that only the page has it while it waits", async () => {
    let there = false;
    const asked = server(() => (there ? { status: 201 } : "no signal"));
    const { send, heard, hasRoom, inLine } = await fresh();
    const put = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    expect(await send("j", "reading", { gauge: "typed", pa: 50 })).toBe("waiting");
    expect(await send("j", "reading", { gauge: "typed", pa: 40 })).toBe("waiting");
    expect(hasRoom()).toBe(false);
    put.mockRestore();
    there = true;
    asked.length = 0;
    heard(true);
    await vi.waitFor(() => expect(inLine()).toEqual([]), PATIENCE);
    await vi.waitFor(() => expect(hasRoom()).toBe(true), PATIENCE);
    expect(asked.filter((a) => a.method === "POST").map((a) => (a.body as { readings: { pa: number }[] }).readings[0]!.pa)).toEqual([50, 40]);
    await nothingIsLeft();
  });

  it.each([401, 429, 503])("waits after %i instead of giving up", async (status) => {
    server(() => problem(status, "later"));
    const { send } = await fresh();
    expect(await send("j", "touch", { kind: "note" })).toBe("waiting");
    await vi.waitFor(async () => expect(await stored()).toHaveLength(1), PATIENCE);
  });
});
