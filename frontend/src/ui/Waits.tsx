import type { ReactNode } from "react";

/** What comes here has been asked for. On a page that was just gone to, nothing that stands after it shows before it is there (`Arrival`): it would be pushed away from under a hand. */
export function Waits({ children, className = "" }: { children?: ReactNode; className?: string }) {
  return <p className={`waits text-soft ${className}`}>{children}</p>;
}
