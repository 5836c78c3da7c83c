import { afterEach, beforeEach, expect, it, vi } from "vitest";

class Param {
  value = 0;
  setValueAtTime() {}
  exponentialRampToValueAtTime() {}
}

const made: Fake[] = [];

class Fake {
  state = "suspended";
  currentTime = 0;
  destination = {};
  started = 0;
  constructor() {
    made.push(this);
  }
  resume() {
    this.state = "running";
    return Promise.resolve();
  }
  suspend() {
    this.state = "suspended";
    return Promise.resolve();
  }
  createOscillator() {
    return { type: "", frequency: new Param(), connect: (x: unknown) => x, start: () => this.started++, stop: () => {} };
  }
  createGain() {
    return { gain: new Param(), connect: (x: unknown) => x };
  }
}

beforeEach(() => {
  made.length = 0;
  vi.useFakeTimers();
  vi.resetModules();
  vi.stubGlobal("AudioContext", Fake);
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("is silent before a hand has touched the page", async () => {
  const { sound } = await import("./sound");
  await sound();
  expect(made).toHaveLength(0);
});

it("rings after a touch, and rests before and after", async () => {
  const { allowSound, sound } = await import("./sound");
  allowSound();
  window.dispatchEvent(new Event("pointerdown"));
  window.dispatchEvent(new Event("keydown"));
  await vi.advanceTimersByTimeAsync(0);
  expect(made).toHaveLength(1);
  expect(made[0]?.state).toBe("suspended");
  const rung = sound();
  await vi.advanceTimersByTimeAsync(100);
  expect(made[0]?.state).toBe("running");
  expect(made[0]?.started).toBe(2);
  await vi.advanceTimersByTimeAsync(2000);
  await rung;
  expect(made[0]?.state).toBe("suspended");
});
