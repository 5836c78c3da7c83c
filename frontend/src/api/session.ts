import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { persister } from "../lib/keep";
import { setCsrf, SIGNED_OUT, type SessionOut } from "./client";
import { options, refresh } from "./options";

/** What a page has to send with changes is kept in memory only. */
export function takeSession(s: SessionOut): SessionOut {
  setCsrf(s.csrf);
  return s;
}

/** Whether a passphrase is needed, whether this browser is in, and who is at it. */
export function useSession() {
  const client = useQueryClient();
  const found = useQuery(options.session(takeSession));
  useEffect(() => {
    const out = () => refresh(client, ["session"]);
    window.addEventListener(SIGNED_OUT, out);
    return () => window.removeEventListener(SIGNED_OUT, out);
  }, [client]);
  const outside = found.data !== undefined && !found.data.inside;
  // Whoever is not in does not read what was kept on the device either.
  useEffect(() => {
    if (outside) void forget();
  }, [outside]);
  return found;
}

/** Throw away what was kept on the device. */
export const forget = async (): Promise<void> => persister.removeClient();
