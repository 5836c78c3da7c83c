import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

const shown: { words: string; tag?: string }[] = [];
class Notice {
  static permission: NotificationPermission = "granted";
  static requestPermission = vi.fn(async () => "granted" as const);
  onclick: (() => void) | null = null;
  constructor(words: string, more: NotificationOptions) {
    shown.push({ words, tag: more.tag });
  }
}
const fresh = () => {
  vi.resetModules();
  return import("./notify");
};
const ring = (key: string) => ({ key, words: `rings ${key}`, title: "Bloom room", path: "/jobs/a/draw" });
const settled = () => new Promise((go) => setTimeout(go, 5));
const hidden = (is: boolean) => vi.spyOn(document, "hidden", "get").mockReturnValue(is);

describe("what the device is told", () => {
  beforeEach(() => {
    shown.length = 0;
    Notice.permission = "granted";
    vi.stubGlobal("Notification", Notice);
    vi.stubGlobal("isSecureContext", true);
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    vi.restoreAllMocks();
  });

  it("is each alarm once for each time it begins, and only while nobody looks", async () => {
    const { tellOf } = await fresh();
    hidden(true);
    tellOf([ring("a")]);
    tellOf([ring("a"), ring("b")]);
    await settled();
    expect(shown.map((s) => s.tag)).toEqual(["a", "b"]);
    tellOf([]);
    tellOf([ring("a")]);
    await settled();
    expect(shown.map((s) => s.tag)).toEqual(["a", "b", "a"]);
    hidden(false);
    tellOf([ring("a"), ring("c")]);
    hidden(true);
    // What was seen on the page is not told afterwards.
    tellOf([ring("a"), ring("c")]);
    await settled();
    expect(shown).toHaveLength(3);
  });

  it.each(["denied", "default"] as const)("is nothing where the person has said %s", async (said) => {
    Notice.permission = said;
    const { tellOf, allowed } = await fresh();
    hidden(true);
    tellOf([ring("a")]);
    await settled();
    expect(shown).toEqual([]);
    expect(allowed()).toBe(said === "denied" ? "no" : "ask");
  });

  it("follows what is changed in the browser's settings, and asks the browser no more often than that", async () => {
    let asked = 0;
    vi.stubGlobal("Notification", {
      get permission() {
        asked += 1;
        return Notice.permission;
      },
    });
    const { allowed } = await fresh();
    for (let n = 0; n < 20; n += 1) expect(allowed()).toBe("yes");
    expect(asked).toBeLessThan(4);
    Notice.permission = "denied";
    window.dispatchEvent(new Event("focus"));
    expect(allowed()).toBe("no");
  });

  it("is nothing where the browser cannot", async () => {
    vi.stubGlobal("isSecureContext", false);
    const { tellOf, allowed } = await fresh();
    hidden(true);
    tellOf([ring("a")]);
    await settled();
    expect(allowed()).toBe("cannot");
    expect(shown).toEqual([]);
  });
});
