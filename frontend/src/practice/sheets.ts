import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import type { Job } from "../api/client";
import { options } from "../api/options";
import { useCatalogue, useYard } from "../api/queries";

const NEW = "a new sheet: ";
/** The sheet that is looked at first. */
export const FIRST = `${NEW}cooler`;

/** Sheets to start from: a new one of every kind of system, and one's own jobs; the chosen one, and what can be wrong with it. */
export function useSheet(from: string) {
  const catalogue = useCatalogue();
  const yard = useYard();
  const isNew = from.startsWith(NEW);
  const fresh = isNew ? ({ scope: { template: from.slice(NEW.length), condition: "new-dry" } } as unknown as Job) : null;
  const sheet = useQuery(options.composeSheet(from, fresh));
  const possible = useQuery(options.possible(from, sheet.data));
  const sources = useMemo(
    () => [
      ...(catalogue.data?.templates ?? []).map((t) => ({ value: `${NEW}${t.value}`, label: t.label })),
      ...(yard.data ?? []).map((r) => ({ value: r.key, label: `${r.customer || r.title}${r.unit ? `, ${r.unit}` : ""} (a job of yours)` })),
    ],
    [catalogue.data, yard.data],
  );
  return { sources, sheet, possible, isNew };
}
