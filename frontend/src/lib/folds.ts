import { useState } from "react";

import { useNarrow } from "./narrow";

const PREFIX = "rough-draw-fold:";

/** Whether a named fold stood open when it was last touched on this device; folds begin closed. */
export function kept(name: string): boolean {
  try {
    return localStorage.getItem(PREFIX + name) === "open";
  } catch {
    return false;
  }
}

function keep(name: string, open: boolean): void {
  try {
    localStorage.setItem(PREFIX + name, open ? "open" : "closed");
  } catch {
    // A device that keeps nothing forgets how its folds stood.
  }
}

/** A fold by its name: on a phone closed until it is opened, and as it was left; on a larger screen there is none. */
export function useFold(name: string | undefined): { folds: boolean; open: boolean; turn: () => void } {
  const narrow = useNarrow();
  const [open, setOpen] = useState(() => name !== undefined && kept(name));
  const folds = narrow && name !== undefined;
  const turn = () => {
    if (name === undefined) return;
    keep(name, !open);
    setOpen(!open);
  };
  return { folds, open: !folds || open, turn };
}
