import { useRef, useState, type ReactNode } from "react";

import { useForesight } from "../api/queries";
import { Tag } from "../ui/Sheet";

const HOLD_MS = 450;

/** The rig line, with a strip that says what a touch would do while the pointer rests on it or a finger is held. */
export function Hinted({ jobKey, kindOf, children }: { jobKey: string; kindOf: (valve: string | null) => string; children: ReactNode }) {
  const [target, setTarget] = useState<string | null>(null);
  const timer = useRef(0);
  const held = useRef(false);
  const under = (e: React.SyntheticEvent) => (e.target as Element).closest("[data-touch]")?.getAttribute("data-touch") ?? null;
  const rest = (found: string | null) => {
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => setTarget(found), found === null ? 600 : 140);
  };
  const kind = target === null ? null : kindFor(target, kindOf);
  return (
    <div
      onPointerOver={(e) => e.pointerType === "mouse" && rest(under(e))}
      onPointerLeave={(e) => e.pointerType === "mouse" && rest(null)}
      onFocus={(e) => rest(under(e))}
      onPointerDown={(e) => {
        if (e.pointerType === "mouse") return;
        const found = under(e);
        held.current = false;
        window.clearTimeout(timer.current);
        timer.current = window.setTimeout(() => {
          held.current = found !== null;
          setTarget(found);
        }, HOLD_MS);
      }}
      onPointerUp={() => !held.current && window.clearTimeout(timer.current)}
      onPointerCancel={() => window.clearTimeout(timer.current)}
      onContextMenu={(e) => held.current && e.preventDefault()}
      onClickCapture={(e) => {
        // A finger that was held asked; it did not press.
        if (held.current) {
          held.current = false;
          e.stopPropagation();
          e.preventDefault();
        }
      }}
    >
      {children}
      <div className="mt-1 flex min-h-12 items-center border-t-2 border-rule pt-1" role="status" data-testid="hint">
        {kind === null ? (
          <span className="text-note text-soft">Rest on a valve or a part, or hold a finger on it: here it says what a step would do.</span>
        ) : (
          <Said key={kind} jobKey={jobKey} kind={kind} />
        )}
      </div>
    </div>
  );
}

/** The touch that is most likely meant: a valve turned, a part taken off, the pump stopped or started. */
function kindFor(target: string, kindOf: (valve: string | null) => string): string | null {
  const [what, name = ""] = [target.slice(0, target.indexOf(":")), target.slice(target.indexOf(":") + 1)];
  if (what === "valve") return kindOf(name);
  if (name === "pump") return kindOf(null);
  return /^(hose|tool|gauge)/.test(name) ? `take-off:${name}` : null;
}

function Said({ jobKey, kind }: { jobKey: string; kind: string }) {
  const seen = useForesight(jobKey, kind);
  if (!seen.data) return <span className="text-soft">…</span>;
  const first = seen.data.consequences[0];
  return (
    <p>
      <b>{seen.data.words}:</b>{" "}
      {first ? (
        <>
          <Tag tone={first.severity === "note" ? "plain" : first.severity}>{first.severity}</Tag> {first.words}. <span className="text-soft">{first.why}</span>
        </>
      ) : (
        "nothing is let in, cut off or lost by it."
      )}
    </p>
  );
}
