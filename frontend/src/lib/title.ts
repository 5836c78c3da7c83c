import { useEffect } from "react";

/** What the browser's tab and a screen reader call the page. */
export function useTitle(words: string): void {
  useEffect(() => {
    document.title = words ? `${words} · Rough Draw` : "Rough Draw";
  }, [words]);
}
