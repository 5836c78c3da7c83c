import { describe, expect, it, vi } from "vitest";

/** A tab of its own: the module once more, on the same device. */
async function tab() {
  vi.resetModules();
  const kept = await import("./kept");
  await kept.ready;
  return kept;
}

/** Somebody else's long change of the store: what is to be written meanwhile waits for its end. */
async function held(): Promise<() => Promise<void>> {
  const asked = indexedDB.open("rough-draw-kept");
  const db = await new Promise<IDBDatabase>((done) => (asked.onsuccess = () => done(asked.result)));
  const transaction = db.transaction("kept", "readwrite");
  let over = false;
  const go = () => {
    if (!over) transaction.objectStore("kept").get("none").onsuccess = go;
  };
  go();
  return () => {
    over = true;
    return new Promise((done) => (transaction.oncomplete = () => done()));
  };
}

const add = (n: number) => (old: number[] | undefined) => [...(old ?? []), n];

describe("what the device keeps", () => {
  it("is in memory at once, and there for the next page when the promise settles", async () => {
    const one = await tab();
    const done = one.change("list", add(1));
    expect(one.read("list")).toEqual([1]);
    await done;
    expect((await tab()).read("list")).toEqual([1]);
  });

  it("stands there only once it is written, and who asks what stands hears of it", async () => {
    const one = await tab();
    await one.change("list", add(1));
    const release = await held();
    const heard: unknown[] = [];
    one.onChange((name) => heard.push([name, one.standing(name)]));
    const done = one.change("list", add(2));
    expect(one.read("list")).toEqual([1, 2]);
    expect(one.standing("list")).toEqual([1]);
    await release();
    await done;
    expect(one.standing("list")).toEqual([1, 2]);
    expect(heard.at(-1)).toEqual(["list", [1, 2]]);
    expect((await tab()).standing("list")).toEqual([1, 2]);
  });

  it("is changed by several tabs at once without losing one of the changes", async () => {
    const [one, two, three] = [await tab(), await tab(), await tab()];
    await Promise.all(Array.from({ length: 30 }, (_, n) => [one, two, three][n % 3]!.change("list", add(n))));
    const found = (await tab()).read<number[]>("list")!;
    expect([...found].sort((a, b) => a - b)).toEqual(Array.from({ length: 30 }, (_, n) => n));
    // Each tab has heard of all of it, in one order.
    for (const each of [one, two, three]) await vi.waitFor(() => expect(each.read("list")).toEqual(found), { timeout: 10_000 });
  });

  it("that came over a full device is made good with the next change", async () => {
    const one = await tab();
    await one.change("list", add(1));
    const put = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    await expect(one.change("list", add(2))).rejects.toThrow();
    await expect(one.change("list", add(3))).rejects.toThrow();
    expect(one.read("list")).toEqual([1, 2, 3]);
    expect(one.hasRoom()).toBe(false);
    // Nothing better is there than memory: what counts as kept is told with a warning.
    expect(one.standing("list")).toEqual([1, 2, 3]);
    put.mockRestore();
    await one.change("list", add(4));
    expect(one.hasRoom()).toBe(true);
    expect((await tab()).read("list")).toEqual([1, 2, 3, 4]);
  });

  it("is nothing once nothing is to be kept, and comes over from an earlier version once", async () => {
    localStorage.setItem("rough-draw-outbox", JSON.stringify([{ id: "1" }]));
    localStorage.setItem("rough-draw-draft:a-job", JSON.stringify({ version: 3 }));
    localStorage.setItem("rough-draw-draft:b-job", "{not json");
    const one = await tab();
    expect(one.read("outbox")).toEqual([{ id: "1" }]);
    expect(one.read("draft:a-job")).toEqual({ version: 3 });
    expect(one.read("draft:b-job")).toBeUndefined();
    expect(Object.keys(localStorage)).toEqual([]);
    await one.change("outbox", () => undefined);
    expect((await tab()).names()).toEqual(["draft:a-job"]);
  });

  it("is in memory alone where the browser has no store", async () => {
    const open = vi.spyOn(indexedDB, "open").mockImplementation(() => {
      throw new DOMException("shut off", "SecurityError");
    });
    const one = await tab();
    expect(one.hasRoom()).toBe(false);
    await expect(one.change("list", add(1))).rejects.toThrow();
    expect(one.read("list")).toEqual([1]);
    open.mockRestore();
  });
});
