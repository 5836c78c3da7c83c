import { describe, expect, it, vi } from "vitest";

const fresh = async () => {
  vi.resetModules();
  return import("./reach");
};

describe("whether the server answers", () => {
  it("is told once each way", async () => {
    const { heard, onBack, onLost, reach } = await fresh();
    const told: string[] = [];
    onBack(() => told.push("back"));
    const stop = onLost(() => told.push("lost"));
    heard(false);
    heard(false);
    heard(true);
    expect(told).toEqual(["lost", "back"]);
    stop();
    heard(false);
    expect(told).toEqual(["lost", "back"]);
    expect(reach().ok).toBe(false);
    heard(true);
  });

  it("is asked now and then while it does not", async () => {
    vi.useFakeTimers();
    try {
      const { heard, reach } = await fresh();
      let up = false;
      vi.stubGlobal("fetch", async () => (up ? new Response("{}") : Promise.reject(new TypeError("no"))));
      heard(false);
      await vi.advanceTimersByTimeAsync(2600);
      expect(reach().ok).toBe(false);
      up = true;
      await vi.advanceTimersByTimeAsync(2600);
      expect(reach().ok).toBe(true);
    } finally {
      vi.useRealTimers();
    }
  });

  it("waits after what may pass, and not after what will not", async () => {
    const { waitsAfter } = await fresh();
    expect([0, 401, 408, 429, 503].every(waitsAfter)).toBe(true);
    expect([400, 404, 409, 413, 422, 500].some(waitsAfter)).toBe(false);
  });
});
