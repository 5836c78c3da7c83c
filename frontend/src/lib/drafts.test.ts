import { describe, expect, it, vi } from "vitest";

import type { Job } from "../api/client";
import { problem, server } from "../test/server";

const job = { title: "mine" } as Job;
const fresh = async () => {
  vi.resetModules();
  await (await import("./kept")).ready;
  return import("./drafts");
};

describe("edits kept on the device", () => {
  it("go to the server on top of the version they were made on", async () => {
    const asked = server(() => ({ body: {} }));
    const { keepDraft, sendDrafts, anyDrafts } = await fresh();
    keepDraft("j", { version: 4, job, behind: false });
    expect(anyDrafts()).toBe(true);
    await sendDrafts();
    expect(asked).toEqual([{ method: "PUT", path: "/api/jobs/j", body: { version: 4, job } }]);
    expect(anyDrafts()).toBe(false);
  });

  it("are sent once more where an earlier state of them had arrived", async () => {
    const asked = server((_, n) => (n === 1 ? problem(409, "changed") : { body: {} }));
    const { keepDraft, sendDrafts, draftOf } = await fresh();
    keepDraft("j", { version: 4, job, behind: true });
    await sendDrafts();
    expect(asked.map((a) => (a.body as { version: number }).version)).toEqual([4, 5]);
    expect(draftOf("j")).toBeNull();
  });

  it("never write over somebody else's: they stay, with the reason", async () => {
    server(() => problem(409, "somebody saved it meanwhile"));
    const { keepDraft, sendDrafts, draftOf } = await fresh();
    keepDraft("j", { version: 4, job, behind: false });
    await sendDrafts();
    expect(draftOf("j")?.refused).toBe("somebody saved it meanwhile");
  });

  it("wait where there is no signal, and where an editor has the sheet open", async () => {
    const asked = server(() => "no signal");
    const { keepDraft, sendDrafts, draftOf, editing } = await fresh();
    keepDraft("j", { version: 4, job, behind: false });
    await sendDrafts();
    expect(draftOf("j")).toMatchObject({ version: 4 });
    const done = editing("j");
    asked.length = 0;
    await sendDrafts();
    expect(asked).toEqual([]);
    done();
  });
});
