import type { ChargingOut } from "../api/client";

/** What the cylinders before the one on the scale have given. */
export function Emptied({ cylinders, start, kg }: { cylinders: ChargingOut["cylinders"]; start: number | null; kg: (x: number) => string }) {
  const before = start === null ? cylinders : cylinders.slice(0, -1);
  if (!before.length) return null;
  return (
    <ol aria-label="Cylinders emptied" className="mt-2 list-none p-0 text-soft">
      {before.map((c, n) => (
        <li key={n}>
          Cylinder {n + 1}:{" "}
          {c.end_kg !== null && (
            <>
              <span className="figure whitespace-nowrap">
                {kg(c.start_kg)} → {kg(c.end_kg)}
              </span>
              , <span className="whitespace-nowrap">
                <b className="figure text-ink">{kg(c.given_kg)}</b> out
              </span>
            </>
          )}
        </li>
      ))}
    </ol>
  );
}
