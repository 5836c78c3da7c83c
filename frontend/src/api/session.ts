import { useQuery } from "@tanstack/react-query";

import { get, setCsrf, type SessionOut } from "./client";

/** What a page has to send with changes is kept in memory only. */
export function takeSession(s: SessionOut): SessionOut {
  setCsrf(s.csrf);
  return s;
}

/** Whether a passphrase is needed, whether this browser is in, and who is at it. */
export const useSession = () => useQuery({ queryKey: ["session"], queryFn: async () => takeSession(await get<SessionOut>("/session")), staleTime: 60_000, retry: 1 });
