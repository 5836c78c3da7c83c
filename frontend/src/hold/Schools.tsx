import type { VerdictOut } from "../api/client";
import { Sheet, Tag } from "../ui/Sheet";
import { capital } from "../lib/capital";

/** Every school's own rule, applied as it stands, and where it parts from the curve. */
export function Schools({ v }: { v: VerdictOut }) {
  return (
    <Sheet title="What each standard says" fold="hold-standards">
      {v.disagreements.map((d) => (
        <p key={d} className={`mb-3 border-l-4 pl-3 text-lead ${v.verdict.includes("leak") ? "border-stop" : "border-ochre"}`}>
          {d}
        </p>
      ))}
      <ul className="list-none p-0">
        {v.criteria.map((c, i) => (
          <li key={c.key} className="grid gap-x-4 border-t-2 border-rule py-2 first:border-0 first:pt-0 sm:grid-cols-[180px_84px_1fr]">
            <span className="font-bold">
              {c.name}
              {i === 0 && <span className="font-normal text-soft"> (chosen)</span>}
            </span>
            <span>
              <Tag tone={c.passed ? "pass" : c.passed === false ? "stop" : "plain"}>{c.passed ? "passes" : c.passed === false ? "fails" : "not yet"}</Tag>
            </span>
            <span>
              {capital(c.reason)}.<span className="block text-note text-soft">{capital(c.rule)}.</span>
            </span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
