import { afterEach, expect, test, vi } from "vitest";

import { ApiError, get, put, SIGNED_OUT } from "./client";

interface Sent {
  method: string;
  path: string;
  tag: string | null;
}
afterEach(() => {
  globalThis.dispatchEvent(new Event(SIGNED_OUT));
  vi.unstubAllGlobals();
});

/** A server whose answer at every path has the tag of its number, and which knows what is unchanged. */
function tagged(number: () => number): Sent[] {
  const log: Sent[] = [];
  vi.stubGlobal("fetch", async (path: string, init: RequestInit = {}) => {
    const tag = new Headers(init.headers).get("If-None-Match");
    log.push({ method: init.method ?? "GET", path, tag });
    const now = `W/"${path}-${number()}"`;
    if (tag === now) return new Response(null, { status: 304, headers: { ETag: now } });
    return new Response(JSON.stringify({ path, number: number() }), { status: 200, headers: { ETag: now } });
  });
  return log;
}

test("what is unchanged is the very answer that was heard before; what changed is the new one", async () => {
  let n = 1;
  const log = tagged(() => n);
  const first = await get("/jobs/quay");
  expect(await get("/jobs/quay")).toBe(first);
  n = 2;
  expect(await get("/jobs/quay")).toEqual({ path: "/api/jobs/quay", number: 2 });
  expect(log.map((x) => x.tag)).toEqual([null, 'W/"/api/jobs/quay-1"', 'W/"/api/jobs/quay-1"']);
});

test("a change says nothing of what is known, and is never taken for it", async () => {
  const log = tagged(() => 1);
  await get("/jobs/quay");
  expect(await put("/jobs/quay", {})).toEqual({ path: "/api/jobs/quay", number: 1 });
  expect(log[1]!.tag).toBeNull();
});

test("of more paths than are kept the oldest is asked for whole", async () => {
  const log = tagged(() => 1);
  for (let i = 0; i < 90; i++) await get(`/jobs/j${i}`);
  await get("/jobs/j0");
  await get("/jobs/j89");
  expect(log.slice(-2).map((x) => x.tag !== null)).toEqual([false, true]);
});

test("what is asked for again and again stays known, however much else is heard", async () => {
  const log = tagged(() => 1);
  for (let i = 0; i < 90; i++) {
    await get("/jobs/quay");
    await get(`/jobs/j${i}`);
  }
  expect(log.filter((x) => x.path === "/api/jobs/quay" && x.tag === null)).toHaveLength(1);
});

test("who is signed out leaves nothing for the next", async () => {
  const log = tagged(() => 1);
  await get("/jobs/quay");
  globalThis.dispatchEvent(new Event(SIGNED_OUT));
  await get("/jobs/quay");
  expect(log[1]!.tag).toBeNull();
});

test("a 304 for what was never heard is no answer", async () => {
  vi.stubGlobal("fetch", async () => new Response(null, { status: 304 }));
  await expect(get("/jobs/quay")).rejects.toBeInstanceOf(ApiError);
});
