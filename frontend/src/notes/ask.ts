import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { options } from "../api/options";

/** A value that is handed on once a hand has rested for a moment. */
function useSettled<T>(value: T, ms = 180): T {
  const [held, setHeld] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const t = setTimeout(() => setHeld(JSON.parse(text) as T), ms);
    return () => clearTimeout(t);
  }, [text, ms]);
  return held;
}

/** A small answer of the server's, asked anew as what is typed changes; the last one stays until the next is there. */
export function useNote<T>(path: string, body: unknown) {
  const held = useSettled(body);
  return useQuery(options.note<T>(path, held));
}

export const useNotePage = <T>(path: string) => useQuery(options.notePage<T>(path));
