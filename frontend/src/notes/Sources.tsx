import { useEffect, type ReactNode } from "react";
import Markdown from "react-markdown";
import { useLocation } from "react-router";
import gfm from "remark-gfm";

import { Sheet } from "../ui/Sheet";
import { anchor } from "./anchor";
import { useNotePage } from "./ask";
import { Waits } from "../ui/Waits";

/** The physics page of the project, its relations to be linked to by name. */
export function Sources() {
  const page = useNotePage<{ text: string }>("physics");
  const { hash } = useLocation();
  useEffect(() => {
    if (!page.data || !hash) return;
    document.getElementById(decodeURIComponent(hash.slice(1)))?.scrollIntoView({ block: "center" });
  }, [page.data, hash]);
  return (
    <Sheet>
      <div className="physics overflow-x-auto" tabIndex={0} role="region" aria-label="Physics and its sources">
        {page.data ? (
          <Markdown
            remarkPlugins={[gfm]}
            components={{
              tr: ({ children, node }) => {
                const cell = node?.children.find((c) => c.type === "element");
                const id = cell && cell.type === "element" ? anchor(textOf(cell)) : undefined;
                return (
                  <tr id={id} className={hash === `#${id}` ? "bg-green-wash" : undefined}>
                    {children as ReactNode}
                  </tr>
                );
              },
              a: ({ children }) => <span>{children}</span>,
            }}
          >
            {page.data.text}
          </Markdown>
        ) : (
          <Waits>Opening…</Waits>
        )}
      </div>
    </Sheet>
  );
}

interface Node {
  type: string;
  value?: string;
  children?: unknown[];
}

function textOf(node: unknown): string {
  const n = node as Node;
  return n.type === "text" ? (n.value ?? "") : (n.children ?? []).map(textOf).join("");
}
