import { act, renderHook, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { draftOf, keepDraft } from "../lib/drafts";
import { heard } from "../lib/reach";
import { page } from "../test/page";
import { problem, server } from "../test/server";
import type { JobOut } from "./client";
import { useEditor } from "./editor";

const sheet = (version: number, title: string) => ({ key: "j", version, can_undo: version > 1, updated_at: 1, job: { title } }) as unknown as JobOut;

function opened() {
  const { wrapper } = page();
  return renderHook(() => useEditor("j"), { wrapper }).result;
}
const titled = (title: string) => (job: JobOut["job"]) => ({ ...job, title });

describe("a sheet under edit", () => {
  it("shows an edit at once and saves it over the version it was made on", async () => {
    const asked = server((a) => ({ body: a.method === "PUT" ? sheet(4, "new") : sheet(3, "old") }));
    const editor = opened();
    await waitFor(() => expect(editor.current.job?.title).toBe("old"));
    act(() => editor.current.edit(titled("new")));
    expect(editor.current.job?.title).toBe("new");
    await waitFor(() => expect(editor.current.version).toBe(4));
    expect(asked.filter((a) => a.method === "PUT")).toEqual([{ method: "PUT", path: "/api/jobs/j", body: { version: 3, job: { title: "new" } } }]);
    expect(draftOf("j")).toBeNull();
  });

  it("sends what was edited during a save on top of that save's version", async () => {
    let version = 3;
    const asked = server(async (a) => {
      if (a.method !== "PUT") return { body: sheet(version, "old") };
      await new Promise((go) => setTimeout(go, 60));
      version += 1;
      return { body: sheet(version, (a.body as { job: { title: string } }).job.title) };
    });
    const editor = opened();
    await waitFor(() => expect(editor.current.job).toBeTruthy());
    act(() => editor.current.edit(titled("one")));
    await waitFor(() => expect(asked.some((a) => a.method === "PUT")).toBe(true));
    act(() => editor.current.edit(titled("two")));
    await waitFor(() => expect(editor.current.version).toBe(5));
    expect(asked.filter((a) => a.method === "PUT").map((a) => a.body)).toEqual([
      { version: 3, job: { title: "one" } },
      { version: 4, job: { title: "two" } },
    ]);
  });

  it("gives way where somebody else was first, and says so", async () => {
    let theirs = false;
    server((a) => {
      if (a.method === "PUT") {
        theirs = true;
        return problem(409, "somebody saved it meanwhile");
      }
      return { body: theirs ? sheet(9, "theirs") : sheet(3, "old") };
    });
    const editor = opened();
    await waitFor(() => expect(editor.current.job).toBeTruthy());
    act(() => editor.current.edit(titled("mine")));
    await waitFor(() => expect(editor.current.job?.title).toBe("theirs"));
    expect(editor.current.fault?.status).toBe(409);
    expect(draftOf("j")).toBeNull();
  });

  it("says of an edit that an earlier page left that it was not taken, whoever finds that out", async () => {
    await keepDraft("j", { version: 3, job: sheet(3, "mine").job, behind: false });
    server((a) => (a.method === "PUT" ? problem(409, "somebody saved it meanwhile") : { body: sheet(9, "theirs") }));
    const editor = opened();
    await waitFor(() => expect(editor.current.job?.title).toBe("theirs"));
    expect(editor.current.fault?.problem).toMatchObject({ title: "An earlier edit here was not taken", detail: "somebody saved it meanwhile" });
    expect(draftOf("j")).toBeNull();
    // What is edited from here on is this page's own.
    act(() => editor.current.edit(titled("mine again")));
    await waitFor(() => expect(editor.current.fault?.problem.title).toBe("Not possible"));
  });

  it("keeps an edit on the device without signal, and saves it when the server is back", async () => {
    let there = true;
    const asked = server((a) => (!there ? "no signal" : { body: a.method === "PUT" ? sheet(4, "mine") : sheet(3, "old") }));
    const editor = opened();
    await waitFor(() => expect(editor.current.job).toBeTruthy());
    there = false;
    act(() => editor.current.edit(titled("mine")));
    await waitFor(() => expect(editor.current.fault?.problem.title).toBe("Not saved yet"));
    expect(editor.current.job?.title).toBe("mine");
    expect(draftOf("j")?.job.title).toBe("mine");
    there = true;
    act(() => heard(true));
    await waitFor(() => expect(editor.current.version).toBe(4));
    expect(asked.filter((a) => a.method === "PUT").at(-1)!.body).toMatchObject({ version: 3 });
    expect(draftOf("j")).toBeNull();
  });

  it("leaves what was refused in view, with the reason, until the next edit mends it", async () => {
    const asked = server((a) => {
      if (a.method !== "PUT") return { body: sheet(3, "old") };
      const { title } = (a.body as { job: { title: string } }).job;
      return title === "bad" ? problem(422, "a title cannot be so") : { body: sheet(4, title) };
    });
    const editor = opened();
    await waitFor(() => expect(editor.current.job).toBeTruthy());
    act(() => editor.current.edit(titled("bad")));
    await waitFor(() => expect(editor.current.fault?.problem.detail).toBe("a title cannot be so"));
    expect(editor.current.job?.title).toBe("bad");
    act(() => editor.current.edit(titled("good")));
    await waitFor(() => expect(editor.current.version).toBe(4));
    expect(editor.current.fault).toBeNull();
    expect(asked.at(-1)).toBeTruthy();
  });

  it("takes two edits back for two presses, however soon the second comes", async () => {
    let version = 7;
    const asked = server(async (a) => {
      if (a.method !== "POST") return { body: sheet(version, "edited") };
      await new Promise((go) => setTimeout(go, 40));
      const meant = (a.body as { version: number }).version;
      if (meant !== version) return problem(409, "somebody saved it meanwhile");
      version += 1;
      return { body: sheet(version, version === 8 ? "once edited" : "as it was") };
    });
    const editor = opened();
    await waitFor(() => expect(editor.current.job).toBeTruthy());
    act(() => {
      editor.current.undo();
      editor.current.undo();
    });
    await waitFor(() => expect(editor.current.job?.title).toBe("as it was"));
    expect(editor.current.fault).toBeNull();
    expect(asked.filter((a) => a.method === "POST").map((a) => (a.body as { version: number }).version)).toEqual([7, 8]);
  });
});
