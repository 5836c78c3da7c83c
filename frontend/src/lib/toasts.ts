import { useSyncExternalStore } from "react";

/** What has just succeeded, said for a few seconds, with the way back where there is one. */

export interface Toast {
  id: number;
  words: string;
  undo?: () => void;
}

const MOST = 2;
let shown: Toast[] = [];
let count = 0;
const told = new Set<() => void>();

function put(next: Toast[]): void {
  shown = next;
  told.forEach((t) => t());
}

/** Say that something succeeded. The oldest gives way where there are many. */
export function toast(words: string, undo?: () => void): void {
  count += 1;
  put([...shown, { id: count, words, undo }].slice(-MOST));
}

export const dismiss = (id: number): void => put(shown.filter((t) => t.id !== id));

export const useToasts = (): Toast[] =>
  useSyncExternalStore((t) => {
    told.add(t);
    return () => told.delete(t);
  }, () => shown);
