import type { components } from "../api/schema";

export type TimeUnit = NonNullable<components["schemas"]["QuickIn"]["time_unit"]>;
/** What a person says of a table that does not say it itself. */
export type TableSaid = { time_unit?: TimeUnit; day_first?: boolean; began?: string };

export const TIME_UNITS: { value: TimeUnit; label: string }[] = [
  { value: "seconds", label: "seconds" },
  { value: "minutes", label: "minutes" },
  { value: "hours", label: "hours" },
  { value: "milliseconds", label: "milliseconds" },
];

export const AS_SAID = { value: "as-said" as const, label: "as the table says" };

export const DATE_ORDERS: { value: "day" | "month"; label: string }[] = [
  { value: "day", label: "the day" },
  { value: "month", label: "the month" },
];
