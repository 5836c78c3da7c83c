import { useEffect } from "react";
import { useNavigate } from "react-router";

/** Keys on a desk: what each does, for the sheet that lists them. */
export const KEYS: { keys: string; does: string }[] = [
  { keys: "?", does: "this list" },
  { keys: "g then y", does: "Yard" },
  { keys: "g then d", does: "Day" },
  { keys: "g then k", does: "Kit" },
  { keys: "g then q", does: "Hold check" },
  { keys: "g then p", does: "Practice" },
  { keys: "g then b", does: "Notes" },
  { keys: "g then h", does: "History" },
  { keys: "g then w", does: "People: who works here" },
  { keys: "/", does: "search, on the Yard" },
  { keys: "j, k", does: "next and previous job, on the Yard; Enter opens it" },
  { keys: "n", does: "a new job, on the Yard" },
  { keys: "[ and ]", does: "the stage before and after, on a job" },
  { keys: "Tab, Enter", does: "along the rig line: every valve and part can be reached" },
  { keys: "Esc", does: "closes what is open" },
];

const GO: Record<string, string> = { y: "/", d: "/day", k: "/kit", q: "/quick", p: "/practice", b: "/notes", h: "/history", w: "/people" };

/** Whether a key is meant for a field that is being typed in. */
export const typing = (e: KeyboardEvent): boolean =>
  e.ctrlKey || e.metaKey || e.altKey || (e.target instanceof HTMLElement && (e.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)));

/** Keys that work everywhere: "g" and a letter goes to a place, "?" opens the list. */
export function useGlobalKeys(onHelp: () => void): void {
  const navigate = useNavigate();
  useEffect(() => {
    let going = 0;
    const press = (e: KeyboardEvent) => {
      if (typing(e) || document.querySelector("[role=dialog]")) return;
      if (e.key === "?") onHelp();
      else if (e.key === "g") going = Date.now();
      else if (Date.now() - going < 1500 && GO[e.key]) {
        going = 0;
        e.preventDefault();
        void navigate(GO[e.key]!);
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [navigate, onHelp]);
}
