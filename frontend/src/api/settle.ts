import type { DataTag, QueryClient, QueryKey } from "@tanstack/react-query";

/** What a command answered takes the place of what stood there.

What was asked for before it and is still on its way shows how things were before: it is let go, or it would bring that back,
and for good where nothing is asked for again by itself. */
export function settle<T>(client: QueryClient, { queryKey }: { queryKey: DataTag<QueryKey, T, Error> }, out: T): void {
  void client.cancelQueries({ queryKey, exact: true });
  client.setQueryData<T>(queryKey, out);
}
