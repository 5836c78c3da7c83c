import { useSyncExternalStore } from "react";

/** Day or night, kept on this device. */
const KEY = "rough-draw-theme";
const listeners = new Set<() => void>();

export type Theme = "day" | "night";

export const theme = (): Theme => (document.documentElement.dataset.theme === "night" ? "night" : "day");

export function setTheme(next: Theme): void {
  document.documentElement.dataset.theme = next;
  localStorage.setItem(KEY, next);
  listeners.forEach((f) => f());
}

export function initTheme(): void {
  const kept = localStorage.getItem(KEY);
  const dark = window.matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = kept === "night" || (kept === null && dark) ? "night" : "day";
}

export const useTheme = (): Theme =>
  useSyncExternalStore((f) => {
    listeners.add(f);
    return () => listeners.delete(f);
  }, theme);

/** A colour token as it now stands, for canvas drawing. */
export const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
