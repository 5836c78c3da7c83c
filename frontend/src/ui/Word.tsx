import type { ReactNode } from "react";
import { Link } from "react-router";

/** A word of the trade in a help text: it leads to its entry in the glossary. */
export function Word({ of, children }: { of: string; children: ReactNode }) {
  return (
    <Link to={`/notes/words?word=${of}`} className="underline decoration-dotted underline-offset-4 hover:decoration-solid">
      {children}
    </Link>
  );
}
