import { createAsyncStoragePersister } from "@tanstack/query-async-storage-persister";
import type { Query, QueryClient } from "@tanstack/react-query";
import { del, get, set } from "idb-keyval";

import { familyOf, KEPT, keepFamily } from "../api/options";

/** What was last known is kept on the device, so that a page opened without signal shows it. */

export const KEEP_MS = 7 * 24 * 3600 * 1000;
/** The name of this script changes with every build: answers of another build may have another shape. */
export const BUILD = new URL(import.meta.url).pathname;
const HALF_A_DAY = 12 * 3600 * 1000;

export const persister = createAsyncStoragePersister({
  storage: { getItem: (key) => get<string>(key).then((v) => v ?? null), setItem: (key, value: string) => set(key, value), removeItem: (key) => del(key) },
  key: "rough-draw-known",
  throttleTime: 3000,
});

/** Also what could not be asked for again since: without signal that is everything. */
export const keepsQuery = (q: Pick<Query, "queryKey"> & { state: { data: unknown } }): boolean => q.state.data !== undefined && KEPT.includes(familyOf(q.queryKey));

/** What is kept on the device is not thrown away from memory while the page is open. */
export function keepInMemory(client: QueryClient): void {
  for (const name of KEPT) keepFamily(client, name, HALF_A_DAY);
}
