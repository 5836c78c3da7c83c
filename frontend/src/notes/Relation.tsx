import { Link } from "react-router";

import { anchor } from "./anchor";

/** Where a figure comes from: a link to its relation among the sources. */
export function Relation({ relation, children }: { relation: string; children?: string }) {
  return (
    <Link to={`/notes/sources#${anchor(relation)}`} className="text-note text-soft underline">
      {children ?? relation}
    </Link>
  );
}
