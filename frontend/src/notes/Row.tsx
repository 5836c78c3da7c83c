import type { ReactNode } from "react";

/** One answer: what it is, its figure, where it comes from. */
export function Row({ label, value, strong = false, children }: { label: string; value: ReactNode; strong?: boolean; children?: ReactNode }) {
  return (
    <li className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-rule py-1.5 last:border-b-0">
      <span>
        {label} {children}
      </span>
      <span className={`figure font-bold ${strong ? "text-title text-green" : "text-lead"}`}>{value}</span>
    </li>
  );
}
