import { useEffect, useState } from "react";

const QUERY = "(max-width: 767px)";

/** Whether the screen is a phone's. */
export function useNarrow(): boolean {
  const [narrow, setNarrow] = useState(() => window.matchMedia(QUERY).matches);
  useEffect(() => {
    const list = window.matchMedia(QUERY);
    const told = () => setNarrow(list.matches);
    list.addEventListener("change", told);
    return () => list.removeEventListener("change", told);
  }, []);
  return narrow;
}
