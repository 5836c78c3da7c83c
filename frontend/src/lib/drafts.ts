import type { Job } from "../api/client";
import { ApiError } from "../api/client";
import { commands } from "../api/commands";
import { change, names, read } from "./kept";
import { onBack, waitsAfter } from "./reach";

/**
 * Sheets under edit, kept on this device until the server has them: a page that is closed in the middle, or has no
 * signal, loses nothing. Each knows the version that it was made on top of, so nobody else's edit is written over.
 */

interface Draft {
  version: number;
  job: Job;
  /** An earlier state of it was on its way when this was kept: the server may have that by now. */
  behind: boolean;
  /** Why the server would not take it. */
  refused?: string;
}

const PREFIX = "draft:";
const open = new Set<string>();

const nameOf = (key: string) => PREFIX + key;

export const draftOf = (key: string): Draft | null => read<Draft>(nameOf(key)) ?? null;

/** Without room on the device the edit is still in the page, and goes to the server from there. */
const keep = (key: string, draft: Draft | undefined): Promise<void> => change<Draft>(nameOf(key), () => draft).catch(() => undefined);

/** Settles when it is on the device, or has no room there. */
export const keepDraft: (key: string, draft: Draft) => Promise<void> = keep;

export const dropDraft = (key: string): void => {
  if (draftOf(key)) void keep(key, undefined);
};

/** While an editor has this sheet open, it sends its own. */
export function editing(key: string): () => void {
  open.add(key);
  return () => open.delete(key);
}

const held = (): string[] => names().filter((k) => k.startsWith(PREFIX)).map((k) => k.slice(PREFIX.length));

export const anyDrafts = (): boolean => held().length > 0;

/** Send what an earlier page left. What is refused stays, with the reason, until its sheet is opened. */
export async function sendDrafts(): Promise<void> {
  for (const key of held()) {
    const draft = draftOf(key);
    if (!draft || draft.refused || open.has(key)) continue;
    try {
      await commands.saveJob(key, draft.version, draft.job).catch((e: unknown) => {
        if (draft.behind && e instanceof ApiError && e.status === 409) return commands.saveJob(key, draft.version + 1, draft.job);
        throw e;
      });
      await keep(key, undefined);
    } catch (e) {
      if (e instanceof ApiError && !waitsAfter(e.status)) await keep(key, { ...draft, refused: e.problem.detail });
    }
  }
}

if (typeof window !== "undefined") onBack(() => void sendDrafts());
