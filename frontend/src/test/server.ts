import { vi } from "vitest";

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

type Answer = { status?: number; body?: unknown } | "no signal";

/** A server that answers as told and notes what it was asked. */
export function server(answer: (asked: Asked, count: number) => Answer | Promise<Answer>): Asked[] {
  const log: Asked[] = [];
  vi.stubGlobal("fetch", async (path: string, init: RequestInit = {}) => {
    const asked = { method: init.method ?? "GET", path, body: typeof init.body === "string" ? (JSON.parse(init.body) as unknown) : init.body };
    log.push(asked);
    const found = await answer(asked, log.length);
    if (found === "no signal") throw new TypeError("Failed to fetch");
    const { status = 200, body = {} } = found;
    return new Response(status === 204 ? null : JSON.stringify(body), { status });
  });
  return log;
}

/** A problem as the server tells it. */
export const problem = (status: number, detail: string) => ({ status, body: { type: "about:blank", title: "Not possible", status, detail, faults: [] } });
